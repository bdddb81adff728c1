import type { Tray } from "../../api/client";
import { Outline } from "./Outline";

/** Rim, baked outline and raw outline about the middle of the piece. */
export function PieceShape({
  tray: { raw, lies, footprint },
  meets,
}: {
  tray: Tray;
  meets: boolean;
}) {
  const rim = meets ? "fill-caution/40" : "fill-amber/30";
  const room = { across: footprint.across_mm, down: footprint.down_mm };
  if (lies.hole_mm !== null) {
    const { across } = lies.baked_mm;
    return (
      <>
        <circle r={room.across / 2} className={rim} />
        <circle
          r={(across + lies.hole_mm) / 4}
          fill="none"
          className="stroke-blond"
          strokeWidth={(across - lies.hole_mm) / 2}
        />
      </>
    );
  }
  return (
    <>
      {footprint.is_round ? (
        <circle r={room.across / 2} className={rim} />
      ) : lies.outline === "own" || lies.outline === "hexagon" ? (
        <Grown lies={lies} room={room} meets={meets} />
      ) : (
        <rect
          x={-room.across / 2}
          y={-room.down / 2}
          width={room.across}
          height={room.down}
          rx={Math.min(lies.outline === "log" ? 24 : 8, room.down / 2)}
          className={rim}
        />
      )}
      <Outline
        lies={lies}
        size={lies.baked_mm}
        className="fill-blond stroke-amber"
        strokeWidth={1.2}
      />
      <Outline
        lies={lies}
        size={lies.raw_mm}
        className={raw.flat ? "fill-none stroke-dark" : "fill-raw stroke-dark"}
        strokeDasharray="2 2"
        strokeWidth={0.8}
      />
    </>
  );
}

interface GrownProps {
  lies: Tray["lies"];
  room: { across: number; down: number };
  meets: boolean;
}

/** The rim of a piece that is neither round nor a box: its outline grown outward on all sides. */
function Grown({ lies, room, meets }: GrownProps) {
  const { across, down } = lies.baked_mm;
  const by = Math.max(0, Math.min(room.across - across, room.down - down));
  return (
    <g
      className={meets ? "fill-caution stroke-caution" : "fill-amber stroke-amber"}
      opacity={meets ? 0.4 : 0.3}
    >
      <Outline lies={lies} size={lies.baked_mm} strokeWidth={by} strokeLinejoin="round" />
    </g>
  );
}
