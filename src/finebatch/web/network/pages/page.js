"use strict";
const code = document.getElementById("code");
const name = document.getElementById("name");
const said = document.getElementById("said");
// The part behind # is not sent with the address.
code.value = location.hash.slice(1).replace(/\D/g, "");
history.replaceState(null, "", location.pathname);
name.value = /iPad|Tablet/.test(navigator.userAgent)
  ? "Tablet"
  : /Mobile|Android|iPhone/.test(navigator.userAgent)
    ? "Phone"
    : "Another screen";
fetch("/let-in/fingerprint")
  .then((answer) => answer.text())
  .then((text) => {
    document.getElementById("fingerprint").textContent = text;
  });
document.getElementById("let-in").addEventListener("submit", async (event) => {
  event.preventDefault();
  said.textContent = "One moment…";
  try {
    const answer = await fetch("/let-in", {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ code: code.value.replace(/\D/g, ""), name: name.value }),
    });
    if (answer.ok) location.replace("/");
    else said.textContent = (await answer.json()).detail;
  } catch {
    said.textContent = "The other screen does not answer. Is it on the same network?";
  }
});
