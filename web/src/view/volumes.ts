import { api } from "../api/client";
import type { FrameRow } from "../api/types";
import type { Volume } from "./decode";

export type { Volume };

const ROOM = 600 * 1024 * 1024;
/** How names begin of what follows a dial. */
const FOLLOWED = "follow/";

export const volumeName = (row: FrameRow | undefined) =>
  row?.key && row.light && row.lit ? `${row.key}/${row.light}` : null;

/** One quantity of a frame: a byte for each voxel between low and high, or three signed ones. */
export interface Channel {
  name: string;
  size: [number, number, number];
  voxel: number;
  corner: [number, number, number];
  low: number;
  high: number;
  unit: string;
  data: Uint8Array<ArrayBuffer>;
}

export async function fetchChannel(url: string): Promise<Channel | null> {
  const response = await fetch(url).catch(() => null);
  if (!response?.ok) return null;
  const buffer = await response.arrayBuffer();
  const length = new DataView(buffer).getUint32(0, true);
  const head = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 4, length)));
  return { name: url, ...head, data: new Uint8Array(buffer, 4 + length) };
}

/** Keeps the volumes last looked at, and has those to come fetched. */
export class Volumes {
  private kept = new Map<string, Volume>();
  private asked = new Map<
    string,
    { promise: Promise<Volume | null>; done: (volume: Volume | null) => void }
  >();
  private bytes = 0;
  private followed = 0;
  private worker = new Worker(new URL("./volumeWorker.ts", import.meta.url), { type: "module" });

  constructor() {
    this.worker.onmessage = ({ data }: MessageEvent<{ name: string; volume: Volume | null }>) =>
      this.arrive(data.name, data.volume);
    // A worker that does not come up must leave nobody waiting.
    this.worker.onerror = () => [...this.asked.keys()].forEach((name) => this.arrive(name, null));
  }

  get(name: string): Volume | undefined {
    const volume = this.kept.get(name);
    if (volume) {
      this.kept.delete(name);
      this.kept.set(name, volume);
    }
    return volume;
  }

  has(name: string): boolean {
    return this.kept.has(name);
  }

  fetch(name: string): Promise<Volume | null> {
    const kept = this.get(name);
    if (kept) return Promise.resolve(kept);
    const [key, light] = name.split("/");
    return this.asked.get(name)?.promise ?? this.ask(name, api.volumeUrl(key, light));
  }

  /** A frame as edits would make it, which nobody keeps. */
  follow(shot: string, asked: object): Promise<Volume | null> {
    this.followed += 1;
    return this.ask(`${FOLLOWED}${this.followed}`, api.followUrl(shot), JSON.stringify(asked));
  }

  private ask(name: string, url: string, body?: string): Promise<Volume | null> {
    let done: (volume: Volume | null) => void = () => {};
    const promise = new Promise<Volume | null>((resolve) => (done = resolve));
    this.asked.set(name, { promise, done });
    this.worker.postMessage({ name, url, body });
    return promise;
  }

  get busy(): number {
    return this.asked.size;
  }

  dispose() {
    this.worker.terminate();
  }

  private arrive(name: string, volume: Volume | null) {
    if (volume && !name.startsWith(FOLLOWED)) this.keep(volume);
    this.asked.get(name)?.done(volume);
    this.asked.delete(name);
  }

  private keep(volume: Volume) {
    this.kept.set(volume.name, volume);
    this.bytes += volume.bytes;
    for (const [name, old] of this.kept) {
      if (this.bytes <= ROOM || name === volume.name) break;
      this.kept.delete(name);
      this.bytes -= old.bytes;
    }
  }
}
