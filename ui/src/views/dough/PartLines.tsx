import type { Study, Weighed, Words } from "../../api/client";
import type { Card, Change, DraftPart } from "../../logic/draft";
import { mass } from "../../logic/format";
import { CardLines } from "./CardLines";
import { partWords } from "./partKinds";

interface PartLinesProps {
  card: Card;
  words: Words;
  study: Study | undefined;
  change: (change: Change) => void;
}

/** The lines that are not in the dough, below those that are: from here they go back and forth. */
export function PartLines({ card, words, study, change }: PartLinesProps) {
  return card.parts.map((part, n) => (
    <section key={part.id} aria-label={`Lines: ${part.name}`} className="mt-5">
      <h3 className="flex items-baseline gap-3 border-b border-ink pb-1 font-bold">
        {partWords(part)}
        <span className="font-normal text-soft">{mass(study?.parts[n]?.weighed.total_g ?? 0)}</span>
      </h3>
      <LinesOf
        plain
        part={part}
        weighed={study?.parts[n]?.weighed}
        card={card}
        words={words}
        change={change}
      />
    </section>
  ));
}

interface LinesOfProps extends Omit<PartLinesProps, "study"> {
  part: DraftPart;
  weighed: Weighed | undefined;
  plain?: boolean;
}

/** The lines of one part. */
export function LinesOf({ part, weighed, card, words, change, plain = false }: LinesOfProps) {
  return (
    <CardLines
      plain={plain}
      lines={part.lines}
      weighed={weighed}
      words={words}
      cupOfDough={card.cup}
      eggOfDough={card.egg}
      of={`${part.name} `}
      change={(inside) => change({ do: "inPart", id: part.id, change: inside })}
      home={part.id}
      parts={card.parts}
      onMoving={change}
    />
  );
}
