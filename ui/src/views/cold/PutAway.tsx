import { ProblemError } from "../../api/client";
import { FORMS, type Form } from "../../logic/keptAs";
import { noonOf } from "../../logic/moments";
import { parse } from "../../logic/numbers";
import { Choice } from "../../parts/Choice";
import { DoughSelect } from "../../parts/DoughSelect";
import { Field } from "../../parts/Field";
import { MomentField } from "../../parts/MomentField";
import { Notice } from "../../parts/Notice";
import { useRemembered } from "../../parts/useRemembered";
import { type Place, useChangeStore } from "./changes";

const PLACES: readonly (readonly [Place, string])[] = [
  ["fridge", "fridge"],
  ["freezer", "freezer"],
  ["tin", "tin"],
];

interface PutAwayProps {
  now: number;
  /** What a session left over, when it comes from there. */
  doughId?: number | null;
  pieces?: number | null;
}

/** Put dough or pieces away for another day. */
export function PutAway({ now, doughId = null, pieces = null }: PutAwayProps) {
  const change = useChangeStore();
  const typed = `put away ${doughId ?? ""} `;
  const [dough, setDough] = useRemembered(`${typed}dough`, doughId ? String(doughId) : "");
  const [form, setForm] = useRemembered<Form>(`${typed}form`, "portions");
  const [place, setPlace] = useRemembered<Place>(`${typed}place`, "fridge");
  const [text, setText] = useRemembered(`${typed}pieces`, pieces ? String(pieces) : "");
  const [since, setSince] = useRemembered<number | null>(`${typed}since`, null);
  const [note, setNote] = useRemembered(`${typed}note`, "");
  const count = parse(text);
  const problem = change.error instanceof ProblemError ? change.error : null;
  const at = since === null ? null : noonOf(since);
  return (
    <form
      aria-label="Put away"
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (!dough || !Number.isInteger(count)) return;
        change.mutate(
          {
            do: "put",
            put: {
              dough_id: Number(dough),
              form,
              place,
              pieces: count,
              since: at === null ? null : Math.min(at, now),
              note,
            },
          },
          {
            onSuccess: () => {
              setText("");
              setNote("");
            },
          },
        );
      }}
    >
      <h2 className="heading">Put something away</h2>
      <Field label="Dough">
        {({ id }) => (
          <DoughSelect id={id} label="Dough" empty="choose…" value={dough} onChange={setDough} />
        )}
      </Field>
      <Choice
        label="As"
        value={form}
        options={FORMS}
        onChange={(next) => {
          setForm(next);
          if (next === "baked" && place === "fridge") setPlace("tin");
          if (next !== "baked" && place === "tin") setPlace("fridge");
        }}
      />
      <div className="flex flex-wrap items-end gap-4">
        <Field label="It gives" unit="pieces" fault={problem?.at("pieces")}>
          {(props) => (
            <input
              {...props}
              className="w-20 text-lg font-semibold"
              inputMode="numeric"
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
          )}
        </Field>
        <Choice label="Into the" value={place} options={PLACES} onChange={setPlace} />
        <MomentField
          label="Since (empty: now)"
          of="day"
          value={since}
          now={now}
          fault={problem?.at("since")}
          onChange={setSince}
        />
      </div>
      {problem?.at("place") && <p className="text-caution">{problem.at("place")}</p>}
      <Field label="Note">
        {(props) => (
          <input
            {...props}
            maxLength={300}
            className="w-full"
            value={note}
            onChange={(event) => setNote(event.target.value)}
          />
        )}
      </Field>
      <Notice problem={problem?.faults.length ? null : change.error} />
      <div className="flex items-center gap-3">
        <button
          type="submit"
          className="press press-main"
          disabled={change.isPending || !dough || !Number.isInteger(count) || count < 1}
        >
          Put it away
        </button>
        <p role="status">{change.isSuccess ? "Put away." : ""}</p>
      </div>
    </form>
  );
}
