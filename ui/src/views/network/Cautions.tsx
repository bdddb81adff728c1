import type { Network } from "./changes";

/** The certificate, what goes without it, and what to mind on a network. */
export function Cautions({ network }: { network: Network }) {
  return (
    <>
      {network.open && !network.own_certificate && (
        <section aria-labelledby="certificate">
          <h2 id="certificate" className="heading">
            The certificate of this kitchen
          </h2>
          <p className="mt-2">
            It can be downloaded on the page that asks for the code, and installed on the device.
            Install it only where that page shows these same figures (SHA-256):
          </p>
          <p className="mt-1 font-semibold wrap-anywhere tabular-nums">{network.fingerprint}</p>
          <p className="mt-2 text-soft">
            It vouches for addresses of home networks alone. Without it planning, baking and writing
            down go as they do here; the screen may go dark in between, and notices of the device
            stay off.
          </p>
        </section>
      )}
      <section aria-labelledby="on-a-network">
        <h2 id="on-a-network" className="heading">
          On your network
        </h2>
        <ul className="mt-2 flex list-disc flex-col gap-1 pl-5">
          <li>For the network of your own home only, never for one of a café, a hall or a fair.</li>
          <li>
            Give the router a password of its own, and guests its guest network, as its manual and
            your country’s advice on passwords say.
          </li>
          <li>
            A guest on it can see that something answers here, and a page that asks for a code:
            nothing of your doughs, plans or book.
          </li>
          <li>
            A device that is lost or sold: let it go here, and it is out at once. What it showed
            last stays in its browser until it asks again: clear its data before you give it away.
          </li>
        </ul>
      </section>
    </>
  );
}
