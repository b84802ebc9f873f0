// Pictures by drop or paste, beside the file field. The form may be swapped: it is asked for each time.
const form = () => document.getElementById("photo-form");

function take(files) {
  const pictures = new DataTransfer();
  for (const file of files) {
    if (["image/jpeg", "image/png"].includes(file.type)) {
      pictures.items.add(file);
    }
  }
  if (pictures.files.length && form()) {
    document.getElementById("photos").files = pictures.files;
    form().requestSubmit();
  }
}

for (const kind of ["dragenter", "dragover"]) {
  document.addEventListener(kind, event => {
    event.preventDefault();
    form()?.classList.add("over");
  });
}
document.addEventListener("dragleave", () => form()?.classList.remove("over"));
document.addEventListener("drop", event => {
  event.preventDefault();
  form()?.classList.remove("over");
  take(event.dataTransfer.files);
});
document.addEventListener("paste", event => {
  if (event.clipboardData?.files.length) {
    take(event.clipboardData.files);
  }
});
