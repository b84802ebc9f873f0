// What every page has: keys, theme, the list of keys.

export function csrf() {
  return { [document.body.dataset.csrfHeader]: document.body.dataset.csrfToken };
}

/** What the server says, as JSON; null where it refuses, is gone, or the page is being left. */
export async function told(url) {
  try {
    const answer = await fetch(url, { headers: { Accept: "application/json" } });
    return answer.ok ? await answer.json() : null;
  } catch {
    return null;
  }
}

/** The same where a page has nothing to show without it: says so and ends the script there. */
export async function needed(url, words) {
  const answer = await told(url);
  if (answer === null) {
    words.textContent = "This could not be fetched: reload the page.";
    await new Promise(() => {});
  }
  return answer;
}

const actions = new Map();

/** Registers what a button with data-do (or its key) does. */
export function on(name, action) {
  actions.set(name, action);
}

on("keys", () => document.getElementById("keys").showModal());
on("glance", () => document.body.classList.toggle("glance"));
on("new", () => document.querySelector('[data-key="n"]')?.click());
for (const [key, page] of Object.entries({ survey: "survey", rails: "rails", isolate: "isolate" })) {
  on(key, () => go(page));
}

function go(page) {
  const job = location.pathname.match(/^\/jobs\/[^/]+/);
  if (job) {
    location.assign(`${job[0]}/${page}`);
  }
}

const darkWanted = matchMedia("(prefers-color-scheme: dark)");
darkWanted.addEventListener("change", () => document.dispatchEvent(new CustomEvent("themed")));

on("print", () => window.print());
on("theme", () => {
  const root = document.documentElement;
  const shown = root.dataset.theme ?? (darkWanted.matches ? "dim" : "light");
  root.dataset.theme = shown === "dim" ? "light" : "dim";
  document.cookie = `theme=${root.dataset.theme}; path=/; max-age=31536000; samesite=strict`;
  document.dispatchEvent(new CustomEvent("themed"));
});

document.addEventListener("click", event => {
  const button = event.target.closest("[data-do]");
  if (button && actions.has(button.dataset.do)) {
    actions.get(button.dataset.do)(button);
  }
});

const KEYS = { "?": "keys", g: "glance", s: "survey", r: "rails", i: "isolate", n: "new", t: "theme", f: "flip", 0: "whole", b: "board", " ": "play", ",": "back", ".": "forth", 1: "suspect1", 2: "suspect2", 3: "suspect3" };

document.addEventListener("keydown", event => {
  const typing = event.target.closest("input, textarea, select, dialog, [contenteditable]");
  if (event.ctrlKey || event.metaKey || event.altKey) {
    return;
  }
  if (event.key === "/" && !typing) {
    const field = document.getElementById("line") ?? document.getElementById("q");
    if (field) {
      field.focus();
      event.preventDefault();
    }
  } else if (event.key === "Escape" && typing && event.target.blur && !event.target.closest("dialog")) {
    event.target.blur();
  } else if (!typing && actions.has(KEYS[event.key])) {
    if (event.key === " " && event.target.closest("button, a")) {
      return;
    }
    actions.get(KEYS[event.key])();
    event.preventDefault();
  }
});

// This page's own evidence is already shown when the server tells of it.
const TAB = crypto.randomUUID();
document.addEventListener("htmx:configRequest", event => {
  event.detail.headers["X-Tab"] = TAB;
});

// Where the element of a queued request is gone, htmx 2 sends nothing and leaves off: those behind it would wait for ever.
document.addEventListener("htmx:afterRequest", () =>
  setTimeout(() => {
    const sync = document.body["htmx-internal-data"];
    while (sync?.queuedRequests?.length && !sync.xhr) {
      sync.queuedRequests.shift()();
    }
  }),
);

// Who types before htmx listens is searched for all the same.
document.addEventListener(
  "htmx:load",
  () => {
    for (const field of document.querySelectorAll("input[type=search][hx-get]")) {
      if (field.value !== field.defaultValue) {
        field.dispatchEvent(new Event("search", { bubbles: true }));
      }
    }
  },
  { once: true },
);

/** A job's page hears from the server when anybody keeps evidence. */
function listen() {
  const address = document.querySelector("[data-events]")?.dataset.events;
  if (!address) {
    return;
  }
  const events = new EventSource(address);
  events.addEventListener("evidence", event => {
    if (event.data !== TAB) {
      document.body.dispatchEvent(new CustomEvent("evidence"));
    }
  });
  addEventListener("pagehide", () => events.close());
}

listen();
