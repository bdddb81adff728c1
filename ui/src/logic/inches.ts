export const MM_IN = 25.4;

/** So many digits after the point, without the noughts at their end. */
export function trimmed(value: number, digits: number): string {
  const text = value.toFixed(digits);
  return (text.includes(".") ? text.replace(/0+$/, "").replace(/\.$/, "") : text).replace("-", "−");
}

/** To the whole number. */
export const whole = (value: number): string => String(Math.round(value)).replace("-", "−");

/** A number as a cook writes it: 2 7/8. */
export function asFraction(parts: number, of: number): string {
  const whole = Math.floor(parts / of);
  let [over, below] = [parts - whole * of, of];
  while (over > 0 && over % 2 === 0) [over, below] = [over / 2, below / 2];
  if (over === 0) return String(whole);
  return whole > 0 ? `${whole} ${over}/${below}` : `${over}/${below}`;
}

/** A length in inches as a ruler has it: in eighths from one inch up, in sixteenths below; what is
 * less than a thirty-second in hundredths. */
export function inchFigure(mm: number): string {
  const inches = Math.abs(mm) / MM_IN;
  const of = inches >= 1 - 1 / 32 ? 8 : 16;
  const parts = Math.round(inches * of);
  const sign = mm < 0 ? "−" : "";
  if (parts === 0) return inches >= 0.005 ? `${sign}${inches.toFixed(2)}` : "0";
  return sign + asFraction(parts, of);
}
