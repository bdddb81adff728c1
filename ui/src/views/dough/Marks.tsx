import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useId, useState } from "react";
import { useNavigate } from "react-router";
import { api, body, type Dough, ProblemError } from "../../api/client";
import { doughQuery, KEYS, labelsQuery } from "../../logic/queries";
import { FavouriteMark } from "../../parts/FavouriteMark";
import { Field } from "../../parts/Field";
import { Notice } from "../../parts/Notice";
import { useMarks } from "../../parts/useMarks";

/** What a baker keeps a dough by: a favourite, labels of one's own; and another begun from it. */
export function Marks({ dough: opened }: { dough: Dough }) {
  const dough = useQuery(doughQuery(opened.id)).data ?? opened;
  const known = useQuery(labelsQuery).data ?? [];
  const mark = useMarks();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const list = useId();
  const { labels, favourite } = dough.marks;
  const keep = (part: Partial<Dough["marks"]>, then: () => void = () => {}) =>
    mark.mutate({ id: dough.id, marks: { ...dough.marks, ...part } }, { onSuccess: then });
  const [text, setText] = useState("");
  const copy = useMutation({
    mutationFn: () =>
      body(api.POST("/api/doughs/{dough_id}/copy", { params: { path: { dough_id: dough.id } } })),
    onSuccess: async (made) => {
      await queries.invalidateQueries({ queryKey: KEYS.doughs });
      navigate(`/dough/${made.id}`);
    },
  });
  const add = () => {
    const wanted = text.split(",").map((label) => label.trim());
    if (!wanted.some(Boolean)) return;
    keep({ labels: [...labels, ...wanted] }, () => setText(""));
  };
  return (
    <section aria-label="Marks" className="flex flex-col gap-2 border-t border-line pt-3">
      <div className="flex flex-wrap items-end gap-2">
        <button
          type="button"
          className="press min-h-9 px-3"
          aria-pressed={favourite}
          onClick={() => keep({ favourite: !favourite })}
        >
          <FavouriteMark on={favourite} />
          {favourite ? "A favourite" : "Make it a favourite"}
        </button>
        <button
          type="button"
          className="press min-h-9 px-3"
          disabled={copy.isPending}
          onClick={() => copy.mutate()}
        >
          Begin a copy of it
        </button>
      </div>
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <Field
          label="Labels, such as “for the fair”"
          fault={mark.error instanceof ProblemError ? mark.error.at("labels") : undefined}
        >
          {(props) => (
            <input
              {...props}
              list={list}
              className="w-44"
              value={text}
              maxLength={200}
              onChange={(event) => setText(event.target.value)}
            />
          )}
        </Field>
        <datalist id={list}>
          {known.map((label) => (
            <option key={label} value={label} />
          ))}
        </datalist>
        <button type="submit" className="press min-h-9 px-3" disabled={!text.trim()}>
          Put it on
        </button>
      </form>
      {labels.length > 0 && (
        <ul aria-label="Labels" className="flex flex-wrap gap-1.5">
          {labels.map((label) => (
            <li key={label}>
              <button
                type="button"
                className="border border-line bg-sheet px-2 text-[0.9375rem] hover:border-ink"
                aria-label={`Take the label ${label} off`}
                onClick={() => keep({ labels: labels.filter((other) => other !== label) })}
              >
                {label} ✕
              </button>
            </li>
          ))}
        </ul>
      )}
      <Notice problem={copy.error} />
    </section>
  );
}
