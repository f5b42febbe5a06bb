/**
 * Outlines of pieces by their form, in a box of their own: the foot at the origin, the
 * tip at (0, -height). Rounded to a tenth, so that the same piece is the same text.
 */
export function outline(form: string | undefined, width: number, height: number): string {
  const w = width / 2;
  const n = (v: number) => Math.round(v * 10) / 10;
  const p = (points: [number, number][]) => points.map(([x, y]) => `${n(x * w)} ${n(-y * height)}`).join(" ");
  const path = (start: [number, number], ...curves: [number, number][][]) =>
    `M${p([start])}${curves.map((c) => `C${p(c)}`).join("")}Z`;
  const sides = (...half: [number, number][][]) => {
    // mirrors the right half, given from foot to tip, to the left
    const back = half
      .map((c, i) => {
        const from = i === 0 ? ([0, 0] as [number, number]) : half[i - 1]![2]!;
        return [mirror(c[1]!), mirror(c[0]!), mirror(from)];
      })
      .reverse();
    return path([0, 0], ...half, ...back);
  };
  switch (form) {
    case "petal":
    case "inner petal":
      return sides(
        [
          [0.45, 0.02],
          [1.05, 0.42],
          [0.95, 0.72],
        ],
        [
          [0.85, 1.0],
          [0.3, 1.03],
          [0, 0.98],
        ],
      );
    case "round petal":
      return sides(
        [
          [0.7, 0],
          [1.1, 0.35],
          [1, 0.62],
        ],
        [
          [0.92, 0.9],
          [0.45, 1],
          [0, 1],
        ],
      );
    case "pointed petal":
      return sides(
        [
          [0.6, 0.1],
          [1.15, 0.4],
          [0.85, 0.65],
        ],
        [
          [0.6, 0.84],
          [0.2, 0.93],
          [0, 1],
        ],
      );
    case "notched petal":
      return `M0 0C${p([
        [0.35, 0.1],
        [0.95, 0.5],
        [0.98, 0.9],
      ])}L${p([[0.55, 0.96]])}L${p([[0.3, 0.88]])}L${p([[0, 1]])}L${p([[-0.3, 0.88]])}L${p([[-0.55, 0.96]])}L${p([[-0.98, 0.9]])}C${p(
        [
          [-0.95, 0.5],
          [-0.35, 0.1],
          [0, 0],
        ],
      )}Z`;
    case "heart petal":
      return sides(
        [
          [0.5, 0.12],
          [1.1, 0.5],
          [1, 0.8],
        ],
        [
          [0.9, 1.06],
          [0.25, 1.05],
          [0, 0.86],
        ],
      );
    case "frilled petal":
      return `M0 0C${p([
        [0.5, 0.05],
        [1, 0.35],
        [0.95, 0.62],
      ])}q${n(w * 0.12)} ${n(-height * 0.1)} ${n(-w * 0.12)} ${n(-height * 0.13)}q${n(w * 0.02)} ${n(-height * 0.14)} ${n(-w * 0.3)} ${n(-height * 0.12)}q${n(-w * 0.08)} ${n(-height * 0.14)} ${n(-w * 0.3)} ${n(-height * 0.06)}q${n(-w * 0.2)} ${n(-height * 0.08)} ${n(-w * 0.3)} ${n(height * 0.05)}q${n(-w * 0.28)} ${n(-height * 0.02)} ${n(-w * 0.34)} ${n(height * 0.12)}q${n(-w * 0.3)} ${n(height * 0.02)} ${n(-w * 0.42)} ${n(height * 0.14)}C${p(
        [
          [-1, 0.35],
          [-0.5, 0.05],
          [0, 0],
        ],
      )}Z`;
    case "leaf":
      return sides(
        [
          [0.6, 0.08],
          [1.2, 0.45],
          [0.7, 0.7],
        ],
        [
          [0.4, 0.86],
          [0.12, 0.94],
          [0, 1],
        ],
      );
    case "long leaf":
      return sides(
        [
          [0.7, 0.1],
          [1.1, 0.4],
          [0.9, 0.6],
        ],
        [
          [0.7, 0.85],
          [0.2, 0.97],
          [0, 1],
        ],
      );
    case "lobed leaf":
      return `M0 0L${p([
        [0.35, 0.06],
        [0.95, 0.12],
      ])}C${p([
        [0.85, 0.22],
        [0.62, 0.3],
        [0.55, 0.36],
      ])}C${p([
        [0.7, 0.42],
        [0.9, 0.48],
        [1, 0.6],
      ])}C${p([
        [0.7, 0.66],
        [0.45, 0.66],
        [0.32, 0.68],
      ])}C${p([
        [0.3, 0.8],
        [0.15, 0.92],
        [0, 1],
      ])}C${p([
        [-0.15, 0.92],
        [-0.3, 0.8],
        [-0.32, 0.68],
      ])}C${p([
        [-0.45, 0.66],
        [-0.7, 0.66],
        [-1, 0.6],
      ])}C${p([
        [-0.9, 0.48],
        [-0.7, 0.42],
        [-0.55, 0.36],
      ])}C${p([
        [-0.62, 0.3],
        [-0.85, 0.22],
        [-0.95, 0.12],
      ])}L${p([
        [-0.35, 0.06],
        [0, 0],
      ])}Z`;
    case "cone":
      return sides(
        [
          [0.9, 0],
          [1.2, 0.3],
          [0.8, 0.55],
        ],
        [
          [0.55, 0.8],
          [0.2, 0.95],
          [0, 1],
        ],
      );
    case "bud":
      return sides(
        [
          [0.7, 0.05],
          [1.1, 0.4],
          [0.7, 0.65],
        ],
        [
          [0.4, 0.85],
          [0.1, 0.9],
          [0, 1],
        ],
      );
    case "former":
      return `M${p([[-1, 1]])}C${p([
        [-0.9, 0.2],
        [-0.5, 0],
        [0, 0],
      ])}C${p([
        [0.5, 0],
        [0.9, 0.2],
        [1, 1],
      ])}Z`;
    default:
      return sides(
        [
          [0.66, 0],
          [1, 0.28],
          [1, 0.5],
        ],
        [
          [1, 0.78],
          [0.56, 1],
          [0, 1],
        ],
      );
  }
}

const mirror = ([x, y]: [number, number]): [number, number] => [-x, y];

/** Lobes of a one-piece ring, blossom, star or calyx, by its form; 0 for what is no ring. */
export function lobes(form: string | undefined): { count: number; of: string } {
  switch (form) {
    case "daisy":
      return { count: 5, of: "round petal" };
    case "notched ring":
      return { count: 8, of: "notched petal" };
    case "blossom":
      return { count: 5, of: "petal" };
    case "star":
      return { count: 4, of: "pointed petal" };
    case "calyx":
      return { count: 5, of: "pointed petal" };
    default:
      return { count: 0, of: "" };
  }
}

/** A number between 0 and 1 that is the same for the same place: no two petals lie alike. */
export function scatter(seed: number): number {
  const x = Math.sin(seed * 127.1 + 11.7) * 43758.5453;
  return x - Math.floor(x);
}
