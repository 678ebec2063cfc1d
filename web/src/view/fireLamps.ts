/** Where a lamp's row has its place, and its red, green and blue. */
const PLACE = [1, 2, 3];
const LIGHT = [4, 5, 6];

const power = (row: number[]) => LIGHT.reduce((sum, c) => sum + row[c], 0);

const apart = (a: number[], b: number[]) => PLACE.reduce((sum, c) => sum + (a[c] - b[c]) ** 2, 0);

/** Lamps that lie together in one, where their light does, so that few give what all would, from about where they would: what
 * is near to a weak one stays lit.
 * @param rows the strongest first */
export function gathered(rows: number[][], most: number): number[][] {
  if (rows.length <= most) return rows;
  // Each begins as far from those before it as there is one.
  const seeds = [rows[0]];
  const nearest = (row: number[]) => Math.min(...seeds.map((seed) => apart(seed, row)));
  while (seeds.length < most) {
    const next = rows.reduce((best, row) => (nearest(row) > nearest(best) ? row : best));
    if (!(nearest(next) > 0)) break;
    seeds.push(next);
  }
  const groups = seeds.map(() => [] as number[][]);
  for (const row of rows) {
    const far = seeds.map((seed) => apart(seed, row));
    groups[far.indexOf(Math.min(...far))].push(row);
  }
  return groups.map((group, n) => {
    const whole = group.reduce((sum, row) => sum + power(row), 0);
    return seeds[n].map((value, c) => {
      if (LIGHT.includes(c)) return group.reduce((sum, row) => sum + row[c], 0);
      if (!PLACE.includes(c) || !(whole > 0)) return value;
      return group.reduce((sum, row) => sum + (power(row) / whole) * row[c], 0);
    });
  });
}
