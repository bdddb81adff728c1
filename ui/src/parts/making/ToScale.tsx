import { span } from "../../logic/format";
import { Dimension, Ruler } from "../Ruler";

interface ToScaleProps {
  /** What it shows, in words. */
  said: string;
  wide: number;
  tall: number;
  children: React.ReactNode;
}

/** A rectangle of dough to scale, between its rulers and its two sizes. */
export function ToScale({ said, wide, tall, children }: ToScaleProps) {
  return (
    <svg
      role="img"
      aria-label={said}
      viewBox={`-42 -36 ${wide + 118} ${tall + 76}`}
      className="max-h-[20rem] w-full"
    >
      <Ruler length={wide} />
      <Ruler length={tall} down />
      {children}
      <Dimension from={[0, tall + 16]} to={[wide, tall + 16]} text={span(wide)} />
      <Dimension from={[wide + 10, 0]} to={[wide + 10, tall]} text={span(tall)} />
    </svg>
  );
}
