import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { doughNamesQuery } from "../logic/queries";

type DoughName = Schemas["DoughName"];

/** With more doughs than this a list is too long to look through: a field finds them. */
const MANY = 40;

interface DoughSelectProps {
  label: string;
  /** What the list says while none is chosen. */
  empty: string;
  value: string;
  onChange: (id: string) => void;
  /** What is not to be chosen. */
  without?: (dough: DoughName) => boolean;
  /** What is said after a name. */
  after?: (dough: DoughName) => string;
  id?: string;
}

/** One of all doughs, however many there are. */
export function DoughSelect(props: DoughSelectProps) {
  const { label, empty, value, onChange, without, after, id } = props;
  const names = useQuery(doughNamesQuery).data ?? [];
  const [search, setSearch] = useState("");
  const wanted = search.trim().toLowerCase();
  const all = names.filter((dough) => !without?.(dough));
  const listed = all.filter(
    (dough) => String(dough.id) === value || dough.name.toLowerCase().includes(wanted),
  );
  return (
    <span className="flex min-w-0 flex-wrap items-center gap-2">
      <select
        id={id}
        aria-label={label}
        className="max-w-full"
        value={value}
        onChange={(event) => {
          onChange(event.target.value);
          setSearch("");
        }}
      >
        <option value="" disabled={value === ""}>
          {wanted && listed.length > 0 ? `${listed.length} of ${all.length} doughs…` : empty}
        </option>
        {listed.map((dough) => (
          <option key={dough.id} value={dough.id}>
            {dough.name}
            {after?.(dough)}
          </option>
        ))}
      </select>
      {all.length > MANY && (
        <input
          type="search"
          aria-label={`${label}: find by name`}
          placeholder="find by name"
          className="w-44"
          value={search}
          maxLength={80}
          onChange={(event) => setSearch(event.target.value)}
        />
      )}
    </span>
  );
}
