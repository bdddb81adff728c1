import type { Tray } from "../../api/client";

interface OutlineProps extends React.SVGProps<SVGElement> {
  lies: Tray["lies"];
  size: { across: number; down: number };
  x?: number;
  y?: number;
}

/** The outline of a piece of that size, about its middle. */
export function Outline({
  lies,
  size: { across: w, down: h },
  x = 0,
  y = 0,
  ...rest
}: OutlineProps) {
  const line = rest as object;
  switch (lies.outline) {
    case "round":
    case "ring":
      return <circle cx={x} cy={y} r={w / 2} {...line} />;
    case "hexagon": {
      const corners = [
        [0, -h / 2],
        [w / 2, -h / 4],
        [w / 2, h / 4],
        [0, h / 2],
        [-w / 2, h / 4],
        [-w / 2, -h / 4],
      ];
      return (
        <polygon
          points={corners.map(([a = 0, b = 0]) => `${x + a},${y + b}`).join(" ")}
          {...line}
        />
      );
    }
    case "own": {
      if (lies.points.length > 0)
        return (
          <polygon
            points={lies.points.map((at) => `${x + w * at.x},${y + h * at.y}`).join(" ")}
            {...line}
          />
        );
      // Only the box and the area are known: an outline of that area, drawn as a leaf.
      const k = Math.min(Math.max((lies.fills - 0.5) / 0.5, 0), 1);
      const c = (w / 2) * (0.55 + 0.45 * k);
      const [top, bottom, full] = [y - h / 2, y + h / 2, h * (0.3 - 0.3 * k)];
      return (
        <path
          d={`M${x} ${top} C${x + c} ${top + full} ${x + w / 2} ${y - h * 0.2} ${x + w / 2} ${y} C${x + w / 2} ${y + h * 0.2} ${x + c} ${bottom - full} ${x} ${bottom} C${x - c} ${bottom - full} ${x - w / 2} ${y + h * 0.2} ${x - w / 2} ${y} C${x - w / 2} ${y - h * 0.2} ${x - c} ${top + full} ${x} ${top} Z`}
          {...line}
        />
      );
    }
    default: {
      const round = lies.outline === "log" ? Math.min(24, h / 2) : 0;
      return <rect x={x - w / 2} y={y - h / 2} width={w} height={h} rx={round} {...line} />;
    }
  }
}
