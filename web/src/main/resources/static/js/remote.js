// A telephone as the held key: it tells that it is held, ten times a second; the bench ends what it does not hear of.
const root = document.querySelector("main");
const key = document.getElementById("key");
const ALIVE_MS = 100;
const WORDS = { tap: "Tap: keep it, or go on", hold: "Hold: current flows", check: "Hold: contact check" };

let line = null;
let beat = 0;

const say = word => line?.readyState === WebSocket.OPEN && line.send(word);

function press(event) {
  event.preventDefault();
  if (!beat) {
    say("press");
    beat = setInterval(() => say("alive"), ALIVE_MS);
  }
}

function release() {
  if (beat) {
    clearInterval(beat);
    beat = 0;
    say("release");
  }
}

key.addEventListener("pointerdown", event => {
  key.setPointerCapture(event.pointerId);
  press(event);
});
for (const end of ["pointerup", "pointercancel", "lostpointercapture"]) {
  key.addEventListener(end, release);
}
key.addEventListener("contextmenu", event => event.preventDefault());
key.addEventListener("keydown", event => (event.code === "Space" || event.code === "Enter") && !event.repeat && press(event));
key.addEventListener("keyup", release);
for (const gone of ["blur", "pagehide"]) {
  addEventListener(gone, release);
}
document.addEventListener("visibilitychange", () => document.hidden && release());

function show(now) {
  document.getElementById("words").textContent = now.words;
  document.getElementById("words").dataset.tone = now.tone;
  document.getElementById("volts").textContent = now.volts;
  document.getElementById("amps").textContent = now.amps;
  root.dataset.on = now.on;
  key.textContent = WORDS[now.key] ?? "Hold";
  key.disabled = !now.there;
}

function connect() {
  line = new WebSocket(`${location.protocol === "https:" ? "wss" : "ws"}://${location.host}${root.dataset.line}`);
  line.onmessage = event => show(JSON.parse(event.data));
  line.onclose = event => {
    release();
    const over = event.code === 1008;
    show({ there: false, words: over ? "This address has run out. Read the code at the bench again." : "The bench is gone. Calling again …", tone: "bad", key: "", volts: "", amps: "", on: false });
    if (!over) {
      setTimeout(connect, 1500);
    }
  };
}

connect();
