interface HandledDrawingProps {
  /** What is drawn, for who does not see it. */
  said: string;
  viewBox: string;
  className: string;
  children: React.ReactNode;
  /** What is taken hold of in it; a drawing is one thing to who hears it, so they stand beside it. */
  handles: React.ReactNode;
  ref?: React.Ref<SVGSVGElement>;
}

/** A drawing with handles in it. */
export function HandledDrawing(props: HandledDrawingProps) {
  const { said, viewBox, className, children, handles, ref } = props;
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing is no fieldset
    <svg ref={ref} role="group" aria-label="A drawing" viewBox={viewBox} className={className}>
      {/* biome-ignore lint/a11y/noInteractiveElementToNoninteractiveRole: a group is not interactive */}
      <g role="img" aria-label={said}>
        {children}
      </g>
      {handles}
    </svg>
  );
}
