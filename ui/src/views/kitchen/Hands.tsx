import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../../api/client";
import { LIMITS } from "../../api/limits";
import { knownQuery } from "../../logic/queries";
import { Stepper } from "../../parts/Stepper";
import { useRemembered } from "../../parts/useRemembered";
import { Figure } from "./Figure";
import type { KitchenPart } from "./setting";

type Helper = Schemas["Helper"];
type Task = NonNullable<Helper["tasks"]>[number];

const TASKS: readonly (readonly [Task, string, boolean])[] = [
  ["mix", "mix", false],
  ["portion", "portion", false],
  ["finish", "ice and dust", false],
  ["oven", "oven and hot work", true],
  ["knife", "slice", true],
];

/** Whose hands there are, what they may do, and how long they take. */
export function Hands(part: KitchenPart) {
  const { kitchen, plan, fault } = part;
  const helpers = kitchen.planning.helpers;
  const [name, setName] = useRemembered("helper", "");
  const add = () => {
    if (!name.trim()) return;
    plan({ helpers: [...helpers, { name: name.trim(), child: false, tasks: [] }] });
    setName("");
  };
  const change = (place: number, helper: Helper) =>
    plan({ helpers: helpers.map((h, n) => (n === place ? helper : h)) });
  return (
    <section aria-label="Hands" className="flex flex-col gap-2">
      <h2 className="heading">Hands</h2>
      <ul>
        <li className="py-1.5">
          <strong>you</strong>, all jobs
        </li>
        {helpers.map((helper, n) => (
          <HelperRow
            key={helper.name}
            helper={helper}
            onHelper={(next) => change(n, next)}
            onRemove={() => plan({ helpers: helpers.filter((_, k) => k !== n) })}
          />
        ))}
      </ul>
      {fault("helpers") && <p className="text-caution">{fault("helpers")}</p>}
      <form
        className="flex items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <label className="flex flex-col text-[0.9375rem] text-soft">
          A helper’s name
          <input
            className="text-base text-ink"
            value={name}
            maxLength={40}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <button type="submit" className="press min-h-9" disabled={!name.trim()}>
          Add
        </button>
      </form>
      <Minutes {...part} />
    </section>
  );
}

interface HelperRowProps {
  helper: Helper;
  onHelper: (helper: Helper) => void;
  onRemove: () => void;
}

function HelperRow({ helper, onHelper, onRemove }: HelperRowProps) {
  const all = TASKS.map(([task]) => task);
  const trusted = helper.tasks?.length ? helper.tasks : all;
  const toggle = (task: Task) => {
    const next = trusted.includes(task) ? trusted.filter((t) => t !== task) : [...trusted, task];
    onHelper({ ...helper, tasks: next.length === all.length ? [] : next });
  };
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-line py-1.5">
      <strong className="w-24">{helper.name}</strong>
      {TASKS.map(([task, word, hot]) => (
        <label key={task} className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={trusted.includes(task) && !(hot && helper.child)}
            disabled={hot && helper.child}
            onChange={() => toggle(task)}
          />
          {word}
        </label>
      ))}
      <label className="ml-auto flex items-center gap-1.5">
        <input
          type="checkbox"
          checked={helper.child}
          onChange={(event) => onHelper({ ...helper, child: event.target.checked })}
        />
        a child: nothing hot or sharp
      </label>
      <button
        type="button"
        className="icon-press"
        aria-label={`${helper.name} does not help`}
        onClick={onRemove}
      >
        ✕
      </button>
    </li>
  );
}

/** What is planned as a habit of this kitchen, with its minutes; without the tick it is not. */
function HabitMinutes({
  label,
  value,
  usual,
  onValue,
}: {
  label: string;
  value: number;
  usual: number;
  onValue: (minutes: number) => void;
}) {
  return (
    <div className="flex items-center gap-2">
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          checked={value > 0}
          onChange={(event) => onValue(event.target.checked ? usual : 0)}
        />
        {label}
      </label>
      {value > 0 && (
        <Stepper label={label} hideLabel value={value} range={[1, 120]} onChange={onValue} />
      )}
    </div>
  );
}

const times = (pace: number): string => `${pace.toFixed(2).replace(/0$/, "")} times the usual time`;

function Minutes({ kitchen, plan, fault }: KitchenPart) {
  const p = kitchen.planning;
  const known = useQuery(knownQuery(p.pace, p.learns_hands));
  const learnt = known.data?.portion.jobs ?? 0;
  return (
    <>
      <h3 className="mt-2 font-bold">Minutes that a job takes these hands</h3>
      <div className="flex flex-wrap gap-x-6 gap-y-2">
        <Stepper
          label="Load a tray"
          value={p.load_min}
          range={LIMITS.Planning.load_min}
          onChange={(load_min) => plan({ load_min })}
        />
        <Stepper
          label="Turn or swap"
          value={p.turn_min}
          range={LIMITS.Planning.turn_min}
          onChange={(turn_min) => plan({ turn_min })}
        />
        <Stepper
          label="Take out"
          value={p.out_min}
          range={LIMITS.Planning.out_min}
          onChange={(out_min) => plan({ out_min })}
        />
        <Stepper
          label="To the rack"
          value={p.rack_min}
          range={LIMITS.Planning.rack_min}
          onChange={(rack_min) => plan({ rack_min })}
        />
        <Figure
          label="A sheet cools and is lined in"
          unit="min"
          value={p.sheet_ready_min}
          fault={fault("sheet_ready_min")}
          onValue={(sheet_ready_min) => plan({ sheet_ready_min })}
        />
        <HabitMinutes
          label="Wash the bowl between doughs"
          value={p.wash_min}
          usual={4}
          onValue={(wash_min) => plan({ wash_min })}
        />
        <HabitMinutes
          label="Clear up at the end"
          value={p.clear_min}
          usual={10}
          onValue={(clear_min) => plan({ clear_min })}
        />
        <Figure
          label="Portioning takes"
          unit="times the usual"
          value={p.pace}
          fault={fault("pace")}
          onValue={(pace) => plan({ pace })}
        />
      </div>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={p.learns_hands}
          onChange={(event) => plan({ learns_hands: event.target.checked })}
        />
        let bakes correct them
      </label>
      <p className="text-[0.9375rem] text-soft">
        {learnt > 0 && known.data
          ? `From ${learnt === 1 ? "1 tray" : `${learnt} trays`} that you portioned: ${times(known.data.portion.times)}. From ${known.data.mix.jobs === 1 ? "1 mixing" : `${known.data.mix.jobs} mixings`}: ${times(known.data.mix.times)}.${known.data.others.map((one) => ` ${one.label}: ${times(one.times)} (${one.jobs}).`).join("")}`
          : "Nothing is learnt yet: bake a session to its end, and press done as you go."}
      </p>
    </>
  );
}
