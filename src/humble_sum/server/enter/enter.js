// Takes the token behind the # of a link, which browsers send to nobody, and posts it to this server alone.
"use strict";

const part = (id) => document.getElementById(id);
const say = (text) => {
  part("says").textContent = text;
};

let token = location.hash.slice(1);
// Neither the address nor the history keeps it.
if (location.hash) history.replaceState(null, "", location.pathname);

async function signIn() {
  say("Signing in…");
  try {
    const answer = await fetch("/api/session", {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ token }),
    });
    token = "";
    if (answer.ok) {
      location.replace("/");
      return;
    }
    const problem = await answer.json();
    say(problem.faults?.map((fault) => `${fault.what} ${fault.remedy}`).join(" ") || problem.title);
  } catch {
    say("The server cannot be reached. Try again in a moment.");
  }
  part("by-link").hidden = false;
}

async function begin() {
  const answer = await fetch("/api/session").catch(() => null);
  const session = answer?.ok ? await answer.json() : null;
  if (!token) {
    if (session) say(`You are signed in${session.name ? ` as ${session.name}` : ""}.`);
    return;
  }
  part("by-link").hidden = true;
  if (!session) {
    await signIn();
    return;
  }
  if (session.name) part("stay").textContent = `Stay as ${session.name}`;
  say(`You are signed in here${session.name ? ` as ${session.name}` : ""}. This link may be somebody else's.`);
  part("instead").hidden = false;
}

part("by-link").addEventListener("submit", (event) => {
  event.preventDefault();
  const pasted = part("link").value.trim();
  token = pasted.includes("#") ? pasted.slice(pasted.indexOf("#") + 1) : pasted;
  part("link").value = "";
  void signIn();
});
part("stay").addEventListener("click", () => location.replace("/"));
part("change").addEventListener("click", () => {
  part("instead").hidden = true;
  void signIn();
});
void begin();
