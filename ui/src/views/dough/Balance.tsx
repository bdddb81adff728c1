import type { Study } from "../../api/client";
import { mass, percent } from "../../logic/format";
import { Term } from "../../parts/Term";

type Balanced = NonNullable<Study["balance"]>;

const NAMES: Record<string, string> = {
  sugar: "sugars",
  fat: "fat",
  egg: "egg",
  water: "water",
  pieces: "pieces",
  leavening: "leavening",
  salt: "salt",
};
const ROW = 27;
const LEFT = 74;
const WIDE = 170;

interface BalanceProps {
  balance: Balanced;
  before: Balanced | null | undefined;
}

/** Where the dough stands in its family's bands, and where it stood in the version before. */
export function Balance({ balance, before }: BalanceProps) {
  const rows = balance.standings.filter((s) => s.high !== null || s.percent > 0);
  const said = rows
    .map(
      (s) =>
        `${NAMES[s.figure]} ${percent(s.percent)} %${s.high === null ? "" : `, usual ${s.low} to ${s.high} %`}`,
    )
    .join("; ");
  return (
    <figure>
      <svg
        role="img"
        aria-label={`In percent of the flour: ${said}.`}
        viewBox={`0 0 312 ${rows.length * ROW + 2}`}
        className="w-full"
      >
        {rows.map((s, n) => {
          const earlier = before?.standings.find((b) => b.figure === s.figure)?.percent;
          return <Row key={s.figure} standing={s} earlier={earlier} y={n * ROW + ROW / 2} />;
        })}
      </svg>
      <figcaption className="text-[0.9375rem] text-soft">
        <Term of="flourPercent">% of the flour</Term> and its like; <Term of="balance">boxes</Term>:
        usual in the family
        {before ? "; hollow: the version before" : ""}
      </figcaption>
    </figure>
  );
}

interface RowProps {
  standing: Balanced["standings"][number];
  earlier: number | undefined;
  y: number;
}

function Row({ standing: { figure, percent: value, low, high, out }, earlier, y }: RowProps) {
  const most = Math.max((high ?? 0) * 1.45, value * 1.1, (earlier ?? 0) * 1.1, 1);
  const x = (pct: number) => LEFT + (pct / most) * WIDE;
  const moved = earlier !== undefined && Math.abs(earlier - value) > 0.01 * most;
  return (
    <g>
      <text x={0} y={y + 5} fontSize={15} className="fill-ink">
        {NAMES[figure]}
      </text>
      {high !== null && <line x1={LEFT} x2={LEFT + WIDE} y1={y} y2={y} className="stroke-line" />}
      {high !== null && low !== null && (
        <rect
          x={x(low)}
          y={y - 7}
          width={Math.max(x(high) - x(low), 2)}
          height={14}
          className="fill-wash stroke-ink"
          strokeWidth={0.8}
        />
      )}
      {moved && high !== null && (
        <circle
          cx={x(earlier)}
          cy={y}
          r={4.5}
          className="fill-paper stroke-enamel"
          strokeWidth={1.5}
        />
      )}
      {high !== null && (
        <path
          d={`M${x(value)} ${y - 9}l5 9-5 9-5-9z`}
          className={out ? "fill-caution" : "fill-enamel"}
        />
      )}
      <text
        x={312}
        y={y + 5}
        fontSize={15}
        fontWeight={650}
        textAnchor="end"
        className={out ? "fill-caution" : "fill-ink"}
      >
        {percent(value)} %
      </text>
    </g>
  );
}

interface ConsequencesProps {
  balance: Balanced;
  piece: Study["piece"];
  family: string;
}

/** What the composition means, in plain words. */
export function Consequences({ balance, piece, family }: ConsequencesProps) {
  const { leavening } = balance;
  const said = balance.standings.filter((s) => s.said);
  const wider = piece?.wider_pct ?? null;
  return (
    <ul className="mt-2 flex flex-col gap-1.5 text-[0.9375rem]">
      {wider !== null && piece && Math.abs(wider) >= 2 && (
        <li>
          <strong>{wider > 0 ? "Wide" : "Narrow"}:</strong> expect about{" "}
          {Math.abs(wider).toFixed(0)} % {wider > 0 ? "more" : "less"} spread than your other{" "}
          {piece.others === 1 ? "" : `${piece.others} `}
          {family.toLowerCase()} {piece.others === 1 ? "dough" : "doughs"}.
        </li>
      )}
      {said.map((s) => (
        <li key={s.figure}>{s.said}</li>
      ))}
      {leavening.soda_g > 0 && (
        <li>
          Soda {mass(leavening.soda_g)}: acid for {mass(leavening.neutralised_g)}
          {leavening.left_g > 0.3
            ? `; the other ${mass(leavening.left_g)} browns it, and tastes of soap if it is much.`
            : "."}
        </li>
      )}
      <li className="text-soft">
        Fat {mass(balance.fat_g)}, sugars {mass(balance.sugar_g)}, flour and its like{" "}
        {mass(balance.structure_g)}, egg {mass(balance.egg_g)}, salt {mass(balance.salt_g)}, pieces{" "}
        {mass(balance.pieces_g)}; water {mass(balance.water_g)}, {mass(balance.water_free_g)} of it
        free.
      </li>
    </ul>
  );
}
