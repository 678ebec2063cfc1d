import type { Outlook } from "../view/eye";
import type {
  AwayRow,
  Body,
  Catalog,
  Difference,
  Edit,
  ExportRow,
  Finding,
  FramesAnswer,
  Histogram,
  Holdings,
  Job,
  Machines,
  Mesh,
  Preset,
  Print,
  Quality,
  QueuedJob,
  Room,
  Scene,
  ShotAnswer,
  ShotRow,
  Starter,
  Strip,
  StripForecast,
  StripRow,
} from "./types";

/** Something the server refused; the message is a sentence for people. */
export class Refused extends Error {
  constructor(
    message: string,
    readonly code: string,
    readonly status: number,
    /** What a program may want to know more. */
    readonly details: Record<string, unknown> = {},
  ) {
    super(message);
  }
}

/** This window's own name, so that its steps can be told from those of others. */
export const windowName = (() => {
  const kept = sessionStorage.getItem("vumbral-window");
  const name = kept ?? Math.random().toString(36).slice(2, 12);
  sessionStorage.setItem("vumbral-window", name);
  return name;
})();

export async function ask<T>(method: string, path: string, body?: unknown): Promise<T> {
  const raw = body instanceof Blob || typeof body === "string";
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      headers: {
        "x-vumbral-window": windowName,
        ...(raw || body === undefined ? {} : { "content-type": "application/json" }),
      },
      body: body === undefined ? undefined : raw ? (body as BodyInit) : JSON.stringify(body),
    });
  } catch {
    throw new Refused("Vumbral does not answer; start it again, nothing is lost.", "unreachable", 0);
  }
  const data = await response.json().catch(() => null);
  if (!response.ok) {
    throw new Refused(
      data?.error ?? `The server answered ${response.status}.`,
      data?.code ?? "unknown",
      response.status,
      data ?? {},
    );
  }
  return data as T;
}

/** Says that a file is too large before it is sent. */
export function checkSize(file: File, most: number) {
  if (file.size <= most) return;
  const megabytes = (bytes: number) => Math.round(bytes / 1024 / 1024);
  throw new Refused(
    `${file.name} has ${megabytes(file.size)} MB; bring files of at most ${megabytes(most)} MB, thinned if need be.`,
    "file_too_large",
    0,
  );
}

export const shot = (id: string) => `/shots/${encodeURIComponent(id)}`;

/** How much brighter a light is made, and of what colour; 1, 1, 1 leaves it. */
export interface Gain {
  stops: number;
  colour: number[];
}

/** A picture that is made when asked for. */
async function picture(path: string, body: unknown, signal: AbortSignal): Promise<Blob> {
  const response = await fetch(`/api${path}`, {
    method: "POST",
    headers: { "content-type": "application/json", "x-vumbral-window": windowName },
    body: JSON.stringify(body),
    signal,
  });
  if (response.ok) return response.blob();
  const data = await response.json().catch(() => null);
  throw new Refused(data?.error ?? "The picture could not be made.", data?.code ?? "", response.status);
}

/** Files that belong together, sent one by one. */
async function sent(files: File[]) {
  const kept = [];
  for (const file of files)
    kept.push(
      await ask<{ file: string; name: string }>("POST", `/files?name=${encodeURIComponent(file.name)}`, file),
    );
  return kept;
}

export const api = {
  kinds: () => ask<Catalog>("GET", "/kinds"),
  /** What a shot may begin with, and to which span a mesh is brought, metres. */
  starters: () => ask<{ starters: Starter[] }>("GET", "/starters"),
  shots: () =>
    ask<{ shots: ShotRow[]; away: AwayRow[]; event: number; trouble: string | null }>("GET", "/shots"),
  newShot: (name: string, starter: string, mesh: string | null) =>
    ask<ShotAnswer>("POST", "/shots", { name, starter, mesh }),
  importShot: (text: string, name: string) =>
    ask<ShotAnswer>("POST", `/shots/import?name=${encodeURIComponent(name)}`, text),
  /** A whole shot that was packed into a ZIP file. */
  unpack: async (file: File) => ask<ShotAnswer>("POST", "/bundles", { files: await sent([file]) }),
  shot: (id: string) => ask<ShotAnswer>("GET", shot(id)),
  bodies: (id: string) =>
    ask<{ bodies: Body[] }>("GET", `${shot(id)}/bodies`).then((answer) => answer.bodies),
  channelUrl: (id: string, key: string, name: string) => `/api${shot(id)}/channels/${key}/${name}`,
  histogram: (id: string, key: string, name: string) =>
    ask<Histogram>("GET", `${shot(id)}/histograms/${key}/${name}`),
  /** How often values come up before a step of a sculpt. */
  stepValues: (id: string, node: string, frame: number) =>
    ask<Histogram>("GET", `${shot(id)}/steps/${node}/values?frame=${frame}`),
  /** What is another at a frame than at the first one, of light, look and film. */
  sceneAt: (id: string, frame: number) =>
    ask<{ scene: Partial<Scene> }>("GET", `${shot(id)}/scenes/${frame}`).then((answer) => answer.scene),
  sparks: (id: string, frame: number) =>
    fetch(`/api${shot(id)}/sparks/${frame}`)
      .then((response) => (response.ok ? response.arrayBuffer() : new ArrayBuffer(0)))
      .then((buffer) => new Float32Array(buffer)),
  strengths: (id: string, node: string, frame: number, prop: string) =>
    fetch(`/api${shot(id)}/strengths/${node}/${frame}?prop=${prop}`)
      .then((response) => (response.ok ? response.arrayBuffer() : new ArrayBuffer(0)))
      .then((buffer) => new Uint8Array(buffer)),
  takeAway: (id: string) => ask("DELETE", shot(id)),
  putBack: (id: string) => ask("POST", `${shot(id)}/put_back`),
  letGo: (id: string) => ask("POST", `${shot(id)}/let_go`),
  holdings: (id: string) => ask<Holdings>("GET", `${shot(id)}/holdings`),
  /** The small moving picture of a shot: its name, or the job that makes it. */
  reel: (id: string) => ask<{ reel?: string; job?: number }>("POST", `${shot(id)}/reels`),
  reelUrl: (id: string, name: string) => `/api${shot(id)}/reels/${name}.webp`,
  duplicate: (id: string) => ask<ShotAnswer>("POST", `${shot(id)}/duplicate`),
  edit: (id: string, edits: Edit[], head?: number) =>
    ask<ShotAnswer>("POST", `${shot(id)}/edits`, { edits, head, follow: true }),
  undo: (id: string, others = false) =>
    ask<ShotAnswer & { label: string }>("POST", `${shot(id)}/undo`, { follow: true, others }),
  preflight: (id: string) =>
    ask<{ findings: Finding[] }>("GET", `${shot(id)}/preflight`).then((answer) => answer.findings),
  redo: (id: string) => ask<ShotAnswer & { label: string }>("POST", `${shot(id)}/redo`, { follow: true }),
  run: (id: string, quality: Quality) => ask<{ job: number }>("POST", `${shot(id)}/runs`, { quality }),
  frames: (id: string, quality: Quality) => ask<FramesAnswer>("GET", `${shot(id)}/frames?quality=${quality}`),
  /** A draft of edits that are not kept; nothing where nothing is run by them. */
  live: (id: string, edits: Edit[]) =>
    ask<{ job: number; voxel: number; first: number | null } | null>("POST", `${shot(id)}/live`, { edits }),
  endLive: (id: string) => ask("DELETE", `${shot(id)}/live`),
  light: (id: string, quality: Quality, frame: number) =>
    ask<{ job: number }>("POST", `${shot(id)}/light`, { quality, frame }),
  prints: (id: string) =>
    ask<{ prints: Print[] }>("GET", `${shot(id)}/prints`).then((answer) => answer.prints),
  print: (id: string, frame: number) => ask<{ job: number }>("POST", `${shot(id)}/prints`, { frame }),
  meter: (id: string, frame: number) => ask<{ exposure: number }>("POST", `${shot(id)}/meter`, { frame }),
  sheet: (id: string) => ask<{ job: number }>("POST", `${shot(id)}/sheets`, {}),
  sheetUrl: (id: string, name: string) => `/api${shot(id)}/sheets/${name}.png`,
  /** A picture to look at, through an eye of one's own. */
  /** @param crop left, top, right and bottom of the part that is made, or all of it */
  glance: (
    id: string,
    frame: number,
    size: number[],
    eye: unknown,
    crop: number[] | null,
    key: string | null,
    signal: AbortSignal,
  ) => picture(`${shot(id)}/glances`, { frame, size, eye, crop, key }, signal),
  /** Takes a print apart by what lights it. */
  takeApart: (id: string, number: number) =>
    ask<{ names: string[] }>("POST", `${shot(id)}/prints/${number}/apart`).then((answer) => answer.names),
  balanced: (id: string, number: number, gains: Gain[], signal: AbortSignal) =>
    picture(`${shot(id)}/prints/${number}/balanced`, { gains }, signal),
  /** The light at a place of a print that was taken apart, before the film. */
  printLight: (id: string, number: number, x: number, y: number, signal: AbortSignal) =>
    fetch(`/api${shot(id)}/prints/${number}/light?x=${x.toFixed(4)}&y=${y.toFixed(4)}`, { signal }).then(
      (answer) =>
        answer.ok
          ? (answer.json() as Promise<{ all: number[]; parts: Record<string, number[]> }>)
          : Promise.reject(new Refused("There is no light to tell.", "", answer.status)),
    ),
  balance: (id: string, number: number, gains: Gain[]) =>
    ask<ShotAnswer>("POST", `${shot(id)}/prints/${number}/balance`, { gains }),
  sayOfPrint: (id: string, number: number, said: Partial<Pick<Print, "starred" | "name" | "note">>) =>
    ask<Print>("POST", `${shot(id)}/prints/${number}`, said),
  takePrintAway: (id: string, number: number) => ask("DELETE", `${shot(id)}/prints/${number}`),
  putPrintBack: (id: string, number: number) => ask("POST", `${shot(id)}/prints/${number}/put_back`),
  differences: (id: string, number: number, other?: number) =>
    ask<{ differences: Difference[] }>(
      "GET",
      `${shot(id)}/prints/${number}/differences${other === undefined ? "" : `?other=${other}`}`,
    ).then((answer) => answer.differences),
  /** @param rows only some of what differs, or all */
  bringBack: (id: string, number: number, rows?: Pick<Difference, "node" | "dial">[]) =>
    ask<ShotAnswer>("POST", `${shot(id)}/prints/${number}/bring_back`, { follow: true, rows }),
  exports: (id: string) =>
    ask<{ exports: ExportRow[] }>("GET", `${shot(id)}/exports`).then((answer) => answer.exports),
  /** @param more what formats may hold: `passes` besides the picture, of the `props` only some, the layers of the `finish` */
  export: (
    id: string,
    as: string,
    frames: [number, number],
    more: { passes?: string[]; props?: string[]; finish?: boolean } = {},
  ) => ask<{ job: number }>("POST", `${shot(id)}/exports`, { as, frames, ...more }),
  meshes: () => ask<{ meshes: Mesh[] }>("GET", "/meshes").then((answer) => answer.meshes),
  /** One mesh with the files that belong to it, or a numbered sequence. */
  bringMeshes: async (files: File[], rate: number) =>
    ask<Mesh>("POST", "/meshes/together", { files: await sent(files), rate }),
  plates: () => ask<{ plates: Mesh[] }>("GET", "/plates").then((answer) => answer.plates),
  /** A movie, a picture, or pictures that are numbered through. */
  bringPlate: async (files: File[]) => ask<Mesh>("POST", "/plates", { files: await sent(files) }),
  tables: () => ask<{ tables: Mesh[] }>("GET", "/tables").then((answer) => answer.tables),
  bringTable: (file: File) => ask<Mesh>("POST", `/tables?name=${encodeURIComponent(file.name)}`, file),
  /** A frame with all layers; edits are looked at and not kept.
   * @param part left, top, right and bottom of what is made in full, or all of it */
  finished: (
    id: string,
    frame: number,
    size: number[],
    edits: Edit[],
    part: number[] | null,
    signal: AbortSignal,
  ) => picture(`${shot(id)}/finished`, { frame, size, edits, part }, signal),
  pin: (id: string, prop: string) => ask<{ job: number }>("POST", `${shot(id)}/pins/${prop}`),
  exportSaved: (id: string, node: string) =>
    ask<{ job: number }>("POST", `${shot(id)}/exports`, { saved: node }),
  behind: (id: string, frame: number, size: number[], signal: AbortSignal) =>
    picture(`${shot(id)}/behind`, { frame, size }, signal),
  presets: (kind?: string) =>
    ask<{ presets: Preset[] }>("GET", `/presets${kind ? `?kind=${kind}` : ""}`).then(
      (answer) => answer.presets,
    ),
  /** @param picture a small JPEG in base64, or none */
  keepPreset: (shot: string, node: string, name: string, picture: string | null) =>
    ask<Preset>("POST", "/presets", { shot, node, name, picture }),
  presetUrl: (id: string) => `/api/presets/${id}/picture.jpg`,
  bringPreset: async (file: File) =>
    ask<Preset>("POST", `/presets/files?name=${encodeURIComponent(file.name)}`, await file.text()),
  letPresetGo: (preset: string) => ask<{ presets: Preset[] }>("DELETE", `/presets/${preset}`),
  applyPreset: (id: string, node: string, preset: string) =>
    ask<ShotAnswer>("POST", `${shot(id)}/nodes/${node}/preset`, { preset }),
  /** Keeps a file for what is asked for later. */
  sendFile: (file: Blob, name: string) =>
    ask<{ file: string; name: string }>("POST", `/files?name=${encodeURIComponent(name)}`, file),
  queue: () => ask<{ jobs: QueuedJob[] }>("GET", "/queue"),
  tellJob: (id: number, what: "first" | "hold" | "go-on" | "again" | "cancel") =>
    ask<Job>("POST", `/jobs/${id}/${what}`),
  machines: () => ask<Machines>("GET", "/machines"),
  makeTwice: (twice: number) => ask<{ twice: number }>("POST", "/machines", { twice }),
  tellMachine: (id: string, what: "pause" | "go-on") => ask<unknown>("POST", `/machines/${id}/${what}`),
  letMachineGo: (id: string) => ask<unknown>("DELETE", `/machines/${id}`),
  room: () => ask<Room>("GET", "/room"),
  limitRoom: (limit: number | null) => ask<Room & { given: number }>("POST", "/room", { limit }),
  clearRoom: (what: string) => ask<Room & { given: number }>("DELETE", `/room/${what}`),
  findSpots: (id: string, layer: string, frame: number, count: number) =>
    ask<{ job: number }>("POST", `${shot(id)}/spots`, { layer, frame, count }),
  sight: (id: string, from: number, how: "free" | "tripod", zooms: boolean) =>
    ask<{ job: number }>("POST", `${shot(id)}/sighting`, { from, how, zooms }),
  measureGrain: (id: string, effect: string, frame: number) =>
    ask<ShotAnswer>("POST", `${shot(id)}/grain/${effect}`, { frame }),
  pixel: (id: string, frame: number, size: number[], x: number, y: number, part: number[] | null) =>
    ask<{ light: number[] }>("POST", `${shot(id)}/finished/pixel`, { frame, size, x, y, part }),
  smoothTrack: (id: string, node: string) => ask<ShotAnswer>("POST", `${shot(id)}/tracks/${node}/smooth`, {}),
  track: (id: string, node: string, from: number, to: number) =>
    ask<{ job: number }>("POST", `${shot(id)}/tracks/${node}`, { from, to }),
  /** Puts a mesh that was brought into the shot. */
  arrive: (id: string, how: Record<string, unknown>) =>
    ask<ShotAnswer & { props: string[] }>("POST", `${shot(id)}/arrivals`, how),
  /** Fits the chamber to a prop, to all sources, or to what the last run filled. */
  putDown: (id: string, node: string, frame: number) =>
    ask<ShotAnswer>("POST", `${shot(id)}/nodes/${encodeURIComponent(node)}/put-down`, { frame }),
  /** Brings things in line with the first of them, or spaces them evenly. */
  align: (id: string, nodes: string[], frame: number, axis: string, way: string) =>
    ask<ShotAnswer>("POST", `${shot(id)}/align`, { nodes, frame, axis, way }),
  lampOutlook: (id: string, node: string, frame: number) =>
    ask<Outlook>("GET", `${shot(id)}/lamps/${encodeURIComponent(node)}/outlook?frame=${frame}`),
  fit: (id: string, to: string, node: string | null) =>
    ask<ShotAnswer>("POST", `${shot(id)}/fit`, { to, node, follow: true }),
  bake: (id: string, node: string) =>
    ask<ShotAnswer>("POST", `${shot(id)}/nodes/${encodeURIComponent(node)}/bake`),
  pictures: () => ask<{ pictures: Mesh[] }>("GET", "/pictures").then((answer) => answer.pictures),
  bringPicture: (file: File) => ask<Mesh>("POST", `/pictures?name=${encodeURIComponent(file.name)}`, file),
  volumes: () => ask<{ volumes: Mesh[] }>("GET", "/volumes").then((answer) => answer.volumes),
  bringVolume: (file: File) => ask<Mesh>("POST", `/volumes?name=${encodeURIComponent(file.name)}`, file),
  drawings: () => ask<{ drawings: Mesh[] }>("GET", "/drawings").then((answer) => answer.drawings),
  bringDrawing: (file: File) => ask<Mesh>("POST", `/drawings?name=${encodeURIComponent(file.name)}`, file),
  cancel: (job: number) => ask<Job>("POST", `/jobs/${job}/cancel`),
  job: (job: number) => ask<Job>("GET", `/jobs/${job}`),
  printUrl: (id: string, number: number) => `/api${shot(id)}/prints/${number}.png`,
  fileUrl: (id: string) => `/api${shot(id)}/file`,
  exportUrl: (id: string, name: string, file: string) =>
    `/api${shot(id)}/exports/${encodeURIComponent(name)}/${encodeURIComponent(file)}`,
  /** The name of a frame's fogs and beams as the view draws them, or nothing. */
  fogName: (id: string, frame: number) =>
    ask<{ name: string | null }>("POST", `${shot(id)}/fogs`, { frame }).then((answer) => answer.name),
  fog: (name: string) =>
    fetch(`/api/fogs/${name}`).then((answer) =>
      answer.ok
        ? answer.arrayBuffer()
        : Promise.reject(new Refused("The fog is not there any more.", "", answer.status)),
    ),
  strips: (id: string) =>
    ask<{ strips: StripRow[] }>("GET", `${shot(id)}/strips`).then((answer) => answer.strips),
  strip: (id: string, number: number, from = 0) =>
    ask<Strip>("GET", `${shot(id)}/strips/${number}?from=${from}`),
  startStrip: (id: string, dials: unknown, sure = false) =>
    ask<{ strip: number; job: number }>("POST", `${shot(id)}/strips`, { dials, sure }),
  foreseeStrip: (id: string, dials: unknown) =>
    ask<StripForecast>("POST", `${shot(id)}/strips/forecast`, { dials }),
  noteStrip: (id: string, number: number, cell: number, what: string, whether: boolean) =>
    ask<Strip>("POST", `${shot(id)}/strips/${number}/notes`, { cell, [what]: whether }),
  takeStripAway: (id: string, number: number) => ask("DELETE", `${shot(id)}/strips/${number}`),
  stripScene: (id: string, number: number, cell: number) =>
    ask<{ scene: Scene }>("GET", `${shot(id)}/strips/${number}/scenes/${cell}`).then(
      (answer) => answer.scene,
    ),
  stripSheet: (id: string, number: number, frame: number) =>
    ask<{ job: number }>("POST", `${shot(id)}/strips/${number}/sheets`, { frame }),
  followWater: (id: string, asked: object) =>
    fetch(`/api${shot(id)}/follow`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(asked),
    })
      .then((answer) => (answer.status === 200 ? answer.arrayBuffer() : null))
      .catch(() => null),
  followUrl: (id: string) => `/api${shot(id)}/follow`,
  volumeUrl: (key: string, light: string) => `/api/volumes/${key}/${light}`,
  caught: (id: string, node: string) =>
    ask<{ caught: number; of: number }>("GET", `${shot(id)}/kicks/${encodeURIComponent(node)}`),
  drops: (key: string) =>
    fetch(`/api/liquids/${key}/drops`)
      .then((answer) => (answer.ok ? answer.arrayBuffer() : new ArrayBuffer(0)))
      .then((bytes) => new Float32Array(bytes)),
  /** @param key of a frame, perhaps with what is done to it behind a stroke */
  liquidUrl: (key: string, least: number) => {
    const [frame, altered] = key.split("/");
    return `/api/liquids/${encodeURIComponent(frame)}?least=${least}${altered ? `&altered=${altered}` : ""}`;
  },
  pictureUrl: (digest: string) => `/api/pictures/${digest}.png`,
  shapeUrl: (outline: Record<string, unknown>) =>
    `/api/shapes?${new URLSearchParams(
      Object.entries(outline)
        .filter(([, value]) => value !== null && value !== undefined)
        .map(([name, value]) => [name, String(value)]),
    )}`,
};
