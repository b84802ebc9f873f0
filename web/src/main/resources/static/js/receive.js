// Pictures by drop or paste, beside the file field.
const form = document.getElementById("photo-form");
const field = document.getElementById("photos");

function take(files) {
  const pictures = new DataTransfer();
  for (const file of files) {
    if (["image/jpeg", "image/png"].includes(file.type)) {
      pictures.items.add(file);
    }
  }
  if (pictures.files.length) {
    field.files = pictures.files;
    form.requestSubmit();
  }
}

for (const kind of ["dragenter", "dragover"]) {
  document.addEventListener(kind, event => {
    event.preventDefault();
    form.classList.add("over");
  });
}
document.addEventListener("dragleave", () => form.classList.remove("over"));
document.addEventListener("drop", event => {
  event.preventDefault();
  form.classList.remove("over");
  take(event.dataTransfer.files);
});
document.addEventListener("paste", event => {
  if (event.clipboardData?.files.length) {
    take(event.clipboardData.files);
  }
});
