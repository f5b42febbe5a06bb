/**
 * A number as people type it, with a decimal comma or point; NaN for what is none. Nothing
 * is repaired: what cannot be read is for the person to put right, or for the studio to
 * refuse at its field.
 */
export function typed(text: string): number {
  const plain = text.trim();
  return /^[+-]?(\d+([.,]\d*)?|[.,]\d+)$/.test(plain) ? Number(plain.replace(",", ".")) : NaN;
}
