import { span, spanBy, volume } from "./format";
import { METRIC, units } from "./kitchenUnits";

const FIGURE = /(\d+(?:\.\d+)?)(?: × (\d+(?:\.\d+)?))? (cm|mm|ml)\b/g;

/** The name of a tool, its size in the kitchen's unit: round 6 cm, or round 2 3/8 in. */
export const toolName = (name: string): string =>
  name.replace(FIGURE, (written, one: string, other: string | undefined, unit: string) => {
    const metric = unit === "ml" ? units().volume : units().length;
    if (metric === METRIC.length) return written;
    if (unit === "ml") return volume(Number(one));
    const scale = unit === "cm" ? 10 : 1;
    const across = scale * Number(one);
    return other === undefined ? span(across) : spanBy(across, scale * Number(other));
  });
