import { useQuery } from "@tanstack/react-query";
import { certificateQuery } from "../../logic/queries";
import { MannerPresses, useRefused } from "../../parts/calling/MannerPresses";
import { useInstall } from "../../parts/elsewhere/installing";
import { useHasShell } from "../../parts/elsewhere/useHasShell";

/** A tablet or phone that was let in: what it can do beside the oven, and what it still wants for that. */
export function ThisDevice({ name }: { name: string }) {
  return (
    <div className="grid grid-cols-1 flex-1 content-start gap-x-10 gap-y-6 p-5 max-sm:p-3 lg:grid-cols-2">
      <section className="flex flex-col gap-3" aria-labelledby="this-device">
        <h1 id="this-device" className="text-2xl font-bold">
          This device
        </h1>
        <p className="text-lg">
          This is <strong>{name}</strong>, and it was let in. Who else may come in, and whether this
          device stays, is set on the machine that Fine Batch runs on.
        </p>
        <Abilities />
      </section>
      <Certificate />
    </div>
  );
}

const ROW = "flex min-h-12 flex-wrap items-center gap-x-3 border-b border-line py-1.5 text-lg";

function Abilities() {
  const hasShell = useHasShell();
  const install = useInstall();
  const [refused, setRefused] = useRefused();
  const awake = "wakeLock" in navigator;
  return (
    <ul aria-label="What it can do">
      <li className={ROW}>
        <strong>Screen</strong>
        {awake
          ? "stays awake while something is baked, with Bake in front."
          : "may go dark: this browser cannot keep it awake. Set a longer time in the device’s settings."}
      </li>
      <li className={ROW}>
        <strong>Without a network</strong>
        {hasShell
          ? "Today, Bake and the day by the clock open, and what is said is sent later."
          : "only a page that is open goes on. Install the certificate, then open it again."}
      </li>
      <li className={ROW}>
        <strong>When a job is due</strong>
        <MannerPresses onRefused={setRefused} />
        <span role="status" className="text-base text-soft">
          {refused || (hasShell ? "" : "A phone shows notices only with the certificate.")}
        </span>
      </li>
      <li className={ROW}>
        <strong>Home screen</strong>
        {install ? (
          <button type="button" className="press min-h-11" onClick={install}>
            Put it there
          </button>
        ) : (
          "Put it there by the browser’s menu: it opens as a program of its own."
        )}
      </li>
    </ul>
  );
}

/** How to trust this kitchen's own certificate, which browsers ask for before they allow these. */
function Certificate() {
  const { data: fingerprint } = useQuery(certificateQuery);
  if (!fingerprint) return null;
  return (
    <section aria-labelledby="trusting" className="flex flex-col gap-2">
      <h2 id="trusting" className="heading">
        Trust this kitchen’s certificate
      </h2>
      <p>
        <a
          href="/let-in/authority.crt"
          download
          className="press inline-flex min-h-11 items-center"
        >
          Download it
        </a>
      </p>
      <p>
        Install it only where <strong>Tablet and phone</strong>, on the machine that Fine Batch runs
        on, shows these same figures (SHA-256):
      </p>
      <p className="font-semibold wrap-anywhere tabular-nums">{fingerprint}</p>
      <ul className="flex list-disc flex-col gap-1 pl-5">
        <li>
          A device that installs certificates: Settings, Security, <em>Install a certificate</em>,{" "}
          <em>CA certificate</em>; then choose the file.
        </li>
        <li>
          One that says that a profile was downloaded: Settings, General, the profile,{" "}
          <em>Install</em>; then General, About, <em>Certificate trust settings</em>, and switch it
          on.
        </li>
        <li>
          A computer: the browser’s settings, Privacy and security, Certificates, Authorities,{" "}
          <em>Import</em>.
        </li>
      </ul>
      <p>
        Then close the browser, and open this address again: it warns no more. Words differ from
        device to device; its manual has them.
      </p>
      <p className="text-soft">
        It vouches for addresses of home networks alone. Without it planning, baking and writing
        down go as they do with it; the screen may go dark in between, notices stay off, and nothing
        is at hand when the network drops. Remove it when you let this device go.
      </p>
    </section>
  );
}
