import { useState } from "react";
import { serverNow } from "../../logic/clock";
import { when } from "../../logic/format";
import { Notice } from "../../parts/Notice";
import { type Device, useChangeDevice, useLetGo } from "./changes";

/** Who is let in, each with its name, what it may do, and when it was here last. */
export function DevicesLetIn({ devices }: { devices: Device[] }) {
  const change = useChangeDevice();
  const letGo = useLetGo();
  return (
    <section aria-labelledby="let-in">
      <h2 id="let-in" className="heading">
        Let in
      </h2>
      {devices.length === 0 && (
        <p className="mt-2 text-soft">
          Nobody yet. Each tablet and phone will stand here, with when it was here last and the
          press that lets it go.
        </p>
      )}
      <ul>
        {devices.map((device) => (
          <li
            key={device.id}
            className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line py-1.5"
          >
            <Name
              key={device.name}
              device={device}
              onName={(name) => change.mutate({ ...device, name })}
            />
            <select
              aria-label={`${device.name} may do`}
              value={device.role}
              onChange={(event) =>
                change.mutate({ ...device, role: event.target.value as Device["role"] })
              }
            >
              <option value="kitchen">what is done at the oven</option>
              <option value="all">everything</option>
            </select>
            <span className="text-soft">here {when(device.seen_at, serverNow())}</span>
            <button
              type="button"
              className="press ml-auto min-h-9"
              aria-label={`Let ${device.name} go`}
              onClick={() => letGo.mutate(device.id)}
            >
              Let it go
            </button>
          </li>
        ))}
      </ul>
      <Notice problem={change.error ?? letGo.error} />
    </section>
  );
}

interface NameProps {
  device: Device;
  onName: (name: string) => void;
}

function Name({ device, onName }: NameProps) {
  const [text, setText] = useState(device.name);
  const keep = () => {
    const name = text.trim();
    if (name === "") setText(device.name);
    else if (name !== device.name) onName(name);
  };
  return (
    <input
      aria-label={`Name of ${device.name}`}
      className="min-w-40 flex-1 font-semibold"
      maxLength={40}
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={keep}
      onKeyDown={(event) => event.key === "Enter" && keep()}
    />
  );
}
