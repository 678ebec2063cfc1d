/** A number as the desk shows it: as many digits as tell something. */
export function plain(value: number): string {
  if (!Number.isFinite(value)) return "–";
  const size = Math.abs(value);
  if (size !== 0 && (size < 0.0001 || size >= 1e7)) return value.toExponential(2);
  const digits = size >= 100 ? 0 : size >= 10 ? 1 : size >= 1 ? 2 : size >= 0.1 ? 3 : 4;
  return String(Number(value.toFixed(digits)));
}

/** A number written out, as assistive programs want it. */
export function written(value: number): string {
  const plain = String(value);
  return plain.includes("e") ? value.toFixed(12).replace(/0+$/, "") : plain;
}

/** A round step for a range: 1, 2 or 5 times a power of ten, about a hundredth of it. */
export function stepOf(low: number, high: number): number {
  const raw = Math.max((high - low) / 100, 1e-9);
  const power = 10 ** Math.floor(Math.log10(raw));
  const part = raw / power;
  return (part < 1.5 ? 1 : part < 3.5 ? 2 : part < 7.5 ? 5 : 10) * power;
}

/** To the nearest multiple of a step, without the dust of binary fractions. */
export function snap(value: number, step: number): number {
  return Number((Math.round(value / step) * step).toPrecision(10));
}

/** How wide a field is that shows some words, pixels. */
export function widthOf(words: string): string {
  return `${Math.min(Math.max(words.length * 6.7 + 46, 76), 168)}px`;
}

export function bytes(count: number): string {
  if (count < 1024) return `${count} B`;
  if (count < 1024 ** 2) return `${(count / 1024).toFixed(0)} KB`;
  if (count < 1024 ** 3) return `${(count / 1024 ** 2).toFixed(1)} MB`;
  return `${(count / 1024 ** 3).toFixed(2)} GB`;
}

export function duration(seconds: number): string {
  if (seconds < 10) return `${seconds.toFixed(1)} s`;
  if (seconds < 90) return `${Math.round(seconds)} s`;
  return `${Math.round(seconds / 60)} min`;
}

export function length(metres: number): string {
  return metres < 1 ? `${Number((100 * metres).toPrecision(2))} cm` : `${Number(metres.toPrecision(2))} m`;
}

const toScreen = (linear: number) =>
  linear <= 0.0031308 ? 12.92 * linear : 1.055 * linear ** (1 / 2.4) - 0.055;
const toLinear = (screen: number) => (screen <= 0.04045 ? screen / 12.92 : ((screen + 0.055) / 1.055) ** 2.4);

/** Linear light as a colour that a page can show. */
export function hexOf(linear: number[]): string {
  return `#${linear
    .map((part) => Math.round(255 * Math.min(Math.max(toScreen(part), 0), 1)))
    .map((part) => part.toString(16).padStart(2, "0"))
    .join("")}`;
}

export function linearOf(hex: string): number[] {
  return [1, 3, 5].map((at) => Number(toLinear(parseInt(hex.slice(at, at + 2), 16) / 255).toFixed(4)));
}
