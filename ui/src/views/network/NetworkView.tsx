import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { meQuery, networkQuery } from "../../logic/queries";
import { Choice } from "../../parts/Choice";
import { Notice } from "../../parts/Notice";
import { Cautions } from "./Cautions";
import { CodeShown } from "./CodeShown";
import { type Network, type Role, useDropCode, useLetIn, useShut } from "./changes";
import { DevicesLetIn } from "./DevicesLetIn";
import { ThisDevice } from "./ThisDevice";

const ROLES = [
  ["kitchen", "what is done at the oven"],
  ["all", "everything"],
] as const;

/** Tablets and phones of the home network: let in by a code, and let go by a press. */
export default function NetworkView() {
  const me = useQuery(meQuery);
  if (me.error) return <Failed problem={me.error} />;
  if (!me.data) return <p className="p-6 text-soft">One moment…</p>;
  if (me.data.device) return <ThisDevice name={me.data.device.name} />;
  return <AtThisMachine />;
}

const Failed = ({ problem }: { problem: Error }) => (
  <div className="p-6">
    <Notice problem={problem} />
  </div>
);

function AtThisMachine() {
  const network = useQuery(networkQuery);
  if (network.error && !network.data) return <Failed problem={network.error} />;
  if (!network.data) return <p className="p-6 text-soft">One moment…</p>;
  return (
    <div className="grid grid-cols-1 flex-1 content-start gap-x-10 gap-y-6 p-5 max-sm:p-3 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
      <LettingIn network={network.data} />
      <div className="flex flex-col gap-6">
        <DevicesLetIn devices={network.data.devices} />
        <Cautions network={network.data} />
      </div>
    </div>
  );
}

function LettingIn({ network }: { network: Network }) {
  const [role, setRole] = useState<Role>("kitchen");
  const letIn = useLetIn();
  const shut = useShut();
  const drop = useDropCode();
  const { open, code } = network;
  return (
    <section className="flex flex-col gap-4" aria-labelledby="letting-in">
      <h1 id="letting-in" className="text-2xl font-bold">
        Tablet and phone
      </h1>
      <p>
        {open ? (
          <>
            Tablets and phones that were let in are answered at{" "}
            <strong>{network.addresses[0]}</strong>. Nobody else of your network learns anything.
          </>
        ) : (
          "Fine Batch answers on this machine alone. Let a tablet or phone of your own network in, and Bake stands beside the oven, with all that was planned here."
        )}
      </p>
      {code ? (
        <CodeShown key={code.digits} code={code} onDrop={() => drop.mutate(undefined)} />
      ) : (
        <>
          <div role="status">
            {network.guessed_at && (
              <p className="border-l-4 border-caution bg-sheet px-3 py-2">
                <strong className="text-caution">Five wrong codes were given.</strong> That code is
                void. If it was not you, somebody of your network is trying.
              </p>
            )}
          </div>
          <Choice label="It may do" value={role} options={ROLES} onChange={setRole} />
          <p className="text-soft">
            {role === "kitchen"
              ? "Today, Bake, Book and Cold store; it looks at all else, and changes nothing of it."
              : "All that the screens of this machine may, but let others in."}
          </p>
          <div className="flex flex-wrap gap-3">
            <button
              type="button"
              className="press press-main"
              disabled={letIn.isPending}
              onClick={() => letIn.mutate(role)}
            >
              {network.devices.length > 0 ? "Let another one in" : "Let a tablet in"}
            </button>
            {open && (
              <button
                type="button"
                className="press"
                disabled={shut.isPending}
                onClick={() => shut.mutate(undefined)}
              >
                Answer this machine alone
              </button>
            )}
          </div>
        </>
      )}
      <Notice problem={letIn.error ?? shut.error ?? drop.error} />
    </section>
  );
}
