import type { Dial, Histogram, Stop } from "../../api/types";

/** A ramp's value at a place, as the core finds it. */
export function rampAt(stops: Stop[], at: number): number | number[] {
  const after = stops.findIndex((stop) => stop.at > at);
  if (after < 0) return stops[stops.length - 1].value;
  if (after === 0) return stops[0].value;
  const [from, to] = [stops[after - 1], stops[after]];
  const u = (at - from.at) / (to.at - from.at);
  const part = from.pass === "held" ? 0 : from.pass === "linear" ? u : u * u * (3 - 2 * u);
  if (typeof from.value === "number") return from.value + part * ((to.value as number) - from.value);
  return from.value.map((value, n) => value + part * ((to.value as number[])[n] - value));
}

/** What is shown across: all stops and all that the volume holds. */
export function spanOf(stops: Stop[], histogram: Histogram | null): [number, number] {
  const places = stops.map((stop) => stop.at);
  const low = Math.min(histogram?.low ?? 0, ...places);
  const high = Math.max(histogram?.high ?? 0, ...places);
  const room = high > low ? high - low : 1;
  return [low, low + room * 1.04];
}

export function course(
  stops: Stop[],
  [low, high]: [number, number],
  width: number,
  y: (value: number | number[]) => number,
): string {
  if (!stops.length) return "";
  return Array.from({ length: 121 }, (_, n) => {
    const at = low + (n / 120) * (high - low);
    return `${n ? "L" : "M"}${((n / 120) * width).toFixed(1)} ${y(rampAt(stops, at)).toFixed(1)}`;
  }).join("");
}

/** The histogram as one outline. Counts differ by powers of ten, so that their logarithms are drawn. */
export function bars(
  histogram: Histogram,
  [low, high]: [number, number],
  width: number,
  height: number,
): string {
  const most = Math.log1p(Math.max(...histogram.counts, 1));
  const step = (histogram.high - histogram.low) / histogram.counts.length;
  const x = (at: number) => (((at - low) / (high - low)) * width).toFixed(1);
  const tops = histogram.counts.map((count, n) => {
    const y = (height * (1 - 0.92 * (Math.log1p(count) / most))).toFixed(1);
    return `L${x(histogram.low + n * step)} ${y}L${x(histogram.low + (n + 1) * step)} ${y}`;
  });
  return `M${x(histogram.low)} ${height}${tops.join("")}L${x(histogram.high)} ${height}Z`;
}

const held = (value: number, range?: [number, number]) =>
  range ? Math.min(Math.max(value, range[0]), range[1]) : value;

const tidy = (value: number) => Number(value.toPrecision(4));

/** One stop elsewhere; stops stay in order. */
export function moved(stops: Stop[], index: number, at: number, value: number | null, dial: Dial) {
  const changed: Stop = { ...stops[index], at: tidy(held(at, dial.range)) };
  if (value !== null) changed.value = tidy(held(value, dial.values));
  else if (typeof changed.value === "number") changed.value = held(changed.value, dial.values);
  const next = stops.map((stop, n) => (n === index ? changed : stop)).sort((a, b) => a.at - b.at);
  return { stops: next, index: next.indexOf(changed) };
}

/** One more stop, on the course as it is. */
export function inserted(stops: Stop[], at: number, dial: Dial) {
  const place = tidy(held(at, dial.range));
  const value = rampAt(stops, place);
  const fresh: Stop = {
    at: place,
    value: typeof value === "number" ? tidy(value) : value.map(tidy),
    pass: "smooth",
  };
  const next = [...stops, fresh].sort((a, b) => a.at - b.at);
  return { stops: next, index: next.indexOf(fresh) };
}
