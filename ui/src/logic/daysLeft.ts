import type { Schemas } from "../api/client";
import { date } from "./format";

type ColdItem = Schemas["ColdOut"];

export const DAY = 86_400_000;

/** How long is left, in a baker's words. */
export function daysLeft(item: ColdItem, now: number): string {
  const days = (item.use_by - now) / DAY;
  if (days < 0) return `past its day since ${date(item.use_by)}`;
  if (days < 1) return "use it today";
  return `${Math.floor(days)} ${Math.floor(days) === 1 ? "day" : "days"} left, use by ${date(item.use_by)}`;
}
