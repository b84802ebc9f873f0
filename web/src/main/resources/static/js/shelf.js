// The shelf: bundles are dropped or picked, sent with progress, and read by the server with progress; both can be cancelled.
import { csrf, told } from "./page.js";

const MOST_MISSED = 20;
const POLL_MS = 400;
const list = document.getElementById("imports");
const drop = document.getElementById("drop");

document.getElementById("pick").addEventListener("change", event => {
  [...event.target.files].forEach(send);
  event.target.value = "";
});
for (const kind of ["dragenter", "dragover"]) {
  document.addEventListener(kind, event => {
    event.preventDefault();
    drop.classList.add("over");
  });
}
document.addEventListener("dragleave", event => {
  if (!event.relatedTarget) {
    drop.classList.remove("over");
  }
});
document.addEventListener("drop", event => {
  event.preventDefault();
  drop.classList.remove("over");
  [...event.dataTransfer.files].forEach(send);
});

function line(name) {
  const item = document.createElement("li");
  const title = document.createElement("b");
  title.textContent = name;
  const bar = document.createElement("progress");
  bar.max = 1;
  bar.value = 0;
  bar.setAttribute("aria-label", `Taking in ${name}`);
  const stop = document.createElement("button");
  stop.type = "button";
  stop.className = "small";
  stop.textContent = "Cancel";
  stop.setAttribute("aria-label", `Cancel ${name}`);
  const says = document.createElement("span");
  says.className = "says";
  item.append(title, bar, stop, says);
  list.append(item);
  return { item, bar, stop, says };
}

function send(file) {
  const ui = line(file.name);
  const request = new XMLHttpRequest();
  const body = new FormData();
  body.append("bundle", file, file.name);
  request.open("POST", "/imports");
  for (const [name, value] of Object.entries(csrf())) {
    request.setRequestHeader(name, value);
  }
  request.upload.onprogress = event => {
    ui.bar.value = event.lengthComputable ? event.loaded / event.total / 2 : 0;
    ui.says.textContent = "sending";
  };
  request.onload = () => {
    if (request.status === 200) {
      follow(JSON.parse(request.responseText).id, ui);
    } else {
      end(ui, "failed", `The server did not take it (${request.status}).`);
    }
  };
  request.onerror = () => end(ui, "failed", "The connection broke while sending; nothing was kept. Send it again.");
  request.onabort = () => end(ui, "cancelled", "Cancelled; nothing was kept.");
  ui.stop.onclick = () => request.abort();
  request.send(body);
}

function follow(id, ui) {
  ui.stop.onclick = () => fetch(`/imports/${id}`, { method: "DELETE", headers: csrf() });
  let missed = 0;
  const ask = async () => {
    const answer = await told(`/imports/${id}`);
    if (!answer) {
      missed++;
      if (missed < MOST_MISSED) {
        setTimeout(ask, POLL_MS);
      } else {
        end(ui, "failed", "The server no longer says how far it is: look on the shelf, and send it again if it is not there.");
      }
      return;
    }
    missed = 0;
    ui.bar.value = 0.5 + answer.progress / 2;
    ui.says.textContent = answer.state === "running" ? "reading" : "";
    if (answer.state === "done") {
      end(ui, "done", "");
      const link = document.createElement("a");
      link.href = `/jobs/${encodeURIComponent(answer.job)}`;
      link.textContent = `${answer.job} is on the shelf`;
      ui.says.append(link);
      window.htmx.ajax("GET", location.href, { target: "#jobs", select: "#jobs", swap: "outerHTML" });
    } else if (answer.state === "failed") {
      end(ui, "failed", answer.problem);
    } else if (answer.state === "cancelled") {
      end(ui, "cancelled", "Cancelled; nothing was kept.");
    } else {
      setTimeout(ask, POLL_MS);
    }
  };
  ask();
}

function end(ui, state, words) {
  ui.item.className = state;
  ui.bar.value = state === "done" ? 1 : 0;
  ui.stop.textContent = "Clear";
  ui.stop.setAttribute("aria-label", "Clear this line");
  ui.stop.onclick = () => ui.item.remove();
  ui.says.textContent = words;
}
