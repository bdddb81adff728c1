import { useState } from "react";

/** A list given on as text: by the device's own way of sharing where it has one, else copied. */
export function ShareList({ text }: { text: string }) {
  const [said, setSaid] = useState("");
  const give = async () => {
    try {
      if (navigator.share) await navigator.share({ text });
      else {
        await navigator.clipboard.writeText(text);
        setSaid("Copied: paste it into a message.");
      }
    } catch (error) {
      // Whoever closes the device's own window has changed their mind.
      if (error instanceof DOMException && error.name === "AbortError") return;
      setSaid("The browser does not let it be copied here. Print it, or select it by hand.");
    }
  };
  return (
    <>
      <button type="button" className="press" onClick={give}>
        Share the shopping list
      </button>
      <span role="status">{said}</span>
    </>
  );
}
