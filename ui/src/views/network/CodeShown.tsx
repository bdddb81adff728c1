import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import type { Schemas } from "../../api/client";
import { countdown } from "../../logic/format";
import { networkQuery } from "../../logic/queries";

interface CodeShownProps {
  code: Schemas["CodeOut"];
  onDrop: () => void;
}

/** Squares of paper that a camera wants around a QR code. */
const QUIET = 4;

/** The code by which one device is let in: to be scanned, or typed. */
export function CodeShown({ code, onDrop }: CodeShownProps) {
  const left = useLeft(code.left_ms);
  const side = code.qr_side + 2 * QUIET;
  return (
    <div className="flex flex-wrap items-start gap-x-8 gap-y-4">
      <svg
        role="img"
        aria-label="QR code of the address and the code"
        viewBox={`${-QUIET} ${-QUIET} ${side} ${side}`}
        className="w-64 flex-none"
        shapeRendering="crispEdges"
      >
        {/* Black on white in evening colours too: cameras read nothing else well. */}
        <rect x={-QUIET} y={-QUIET} width={side} height={side} fill="#fff" />
        <path d={code.qr} fill="#000" />
      </svg>
      <div className="flex min-w-56 flex-1 flex-col gap-3">
        <ol className="flex list-decimal flex-col gap-1 pl-5">
          <li>Scan it with the camera of the tablet or phone, on the same network.</li>
          <li>
            The device warns of a certificate that it does not know: it is this kitchen’s own. Go on
            to the page.
          </li>
          <li>Give the device a name, and it is in.</li>
        </ol>
        <p>
          Without a camera: <span className="wrap-anywhere">{code.link.split("#")[0]}</span>, and
          the code
        </p>
        <p className="text-4xl font-bold tracking-widest tabular-nums">
          {code.digits.slice(0, 3)} {code.digits.slice(3)}
        </p>
        <p className="text-soft">
          good for {countdown(left)}, for one device, which may do{" "}
          {code.role === "kitchen" ? "what is done at the oven" : "everything"}
        </p>
        <button type="button" className="press self-start" onClick={onDrop}>
          Let nobody in
        </button>
      </div>
    </div>
  );
}

/** How long a code is good yet (ms); it is asked anew when it no longer is. */
function useLeft(atFirst: number): number {
  const queries = useQueryClient();
  const [until] = useState(() => performance.now() + atFirst);
  const [left, setLeft] = useState(atFirst);
  const over = left <= 0;
  useEffect(() => {
    if (over) {
      queries.invalidateQueries({ queryKey: networkQuery.queryKey });
      return;
    }
    const timer = setInterval(() => setLeft(Math.max(until - performance.now(), 0)), 500);
    return () => clearInterval(timer);
  }, [queries, until, over]);
  return left;
}
