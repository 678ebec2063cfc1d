import { onUnmounted, ref, type Ref } from "vue";
import type { Scene, Strip, StripCell } from "../api/types";
import { api } from "../api/client";
import { useMarks } from "../desk/useMarks";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import { Stage } from "../view/stage";
import { Volumes } from "../view/volumes";

/** So many pictures of tiles are kept. */
const KEPT = 1500;

/** Pictures of a strip's variations: all drawn by one view, one after the other, from one side, and kept. */
export function useTiles(
  canvas: Ref<HTMLCanvasElement | null>,
  strip: () => Strip | null,
  frame: () => number,
) {
  const desk = useDesk();
  const catalog = useCatalog();
  const { paints } = useMarks();
  const volumes = new Volumes();
  const pictures = new Map<string, ImageBitmap>();
  const scenes = new Map<string, Scene>();
  /** Where each variation is drawn. */
  const tiles = new Map<number, HTMLCanvasElement>();
  const shown = new Map<number, string>();
  /** How many variations stand at the frame that is wanted. */
  const drawn = ref(0);
  let stage: Stage | null = null;
  let turned = 0;
  let going: Promise<void> | null = null;
  let size = [4, 4];

  async function begin(width: number, height: number) {
    if (!canvas.value || !desk.shot) return;
    size = [width, height];
    if (!stage) {
      stage = new Stage(canvas.value);
      // It draws when it is told to.
      stage.covered = true;
      stage.toggleLines();
      const from = desk.view?.outlook();
      if (from) stage.eye.lookFrom(from);
      else stage.lookThrough(desk.shot.scene);
      stage.setRig(desk.shot.scene);
      stage.props.go(frame());
      void stage.props.set(desk.bodies, new Map(paints()), []).then(() => forget());
    }
    stage.resize(width, height);
    forget();
  }

  /** All are drawn anew. */
  function forget() {
    turned += 1;
    for (const picture of pictures.values()) picture.close();
    pictures.clear();
    shown.clear();
    void work();
  }

  function turn(aside: number, up: number) {
    stage?.eye.turn(aside, up);
    forget();
  }

  function near(times: number) {
    stage?.eye.near(times);
    forget();
  }

  /** Whether variations differ in what lights them or in how they are seen. */
  const lit = (now: Strip) =>
    now.axes.some((axis) => {
      const kind = desk.byId.get(axis.node)?.kind;
      const dial = kind && catalog.kind(kind).dials.find((one) => one.name === axis.dial);
      return !!dial && ["light", "picture"].includes(dial.touches);
    });

  async function sceneOf(now: Strip, n: number): Promise<Scene> {
    if (!lit(now) || !desk.shot) return desk.shot!.scene;
    const name = `${now.number}/${n}`;
    const known = scenes.get(name);
    if (known) return known;
    const found = await api.stripScene(desk.shot.id, now.number, n).catch(() => desk.shot!.scene);
    scenes.set(name, found);
    return found;
  }

  /** The frame of a variation that is shown: the one that is wanted, or the last before it that is there. */
  const rowOf = (cell: StripCell) =>
    cell.rows.filter((row) => (row.key ? row.lit : row.liquid) && row.frame <= frame()).at(-1);

  const moves = () => desk.bodies.some((body) => body.poses);

  const nameOf = (now: Strip, n: number) => {
    const cell = now.cells[n];
    const row = cell && rowOf(cell);
    if (!row) return null;
    return `${turned} ${lit(now) ? n : ""} ${moves() ? row.frame : ""} ${row.key}/${row.light} ${row.liquid ?? ""}`;
  };

  function paint(n: number, picture: ImageBitmap, name: string) {
    const tile = tiles.get(n);
    if (!tile) return;
    if (tile.width !== picture.width) tile.width = picture.width;
    if (tile.height !== picture.height) tile.height = picture.height;
    tile.getContext("2d", { alpha: false })!.drawImage(picture, 0, 0);
    shown.set(n, name);
  }

  async function make(now: Strip, n: number, name: string): Promise<ImageBitmap | null> {
    const row = rowOf(now.cells[n]!)!;
    const volume = row.key ? await volumes.fetch(`${row.key}/${row.light}`) : null;
    const scene = await sceneOf(now, n);
    if (!stage || (row.key && !volume)) return null;
    stage.props.liquid = () => row.liquid ?? null;
    if (row.liquid) await stage.props.ready(row.frame);
    if (!stage || name !== nameOf(now, n)) return null;
    stage.setRig(scene);
    stage.props.go(row.frame);
    stage.setVolume(volume);
    const picture = await createImageBitmap(stage.snap());
    pictures.set(name, picture);
    for (const [old, one] of pictures) {
      if (pictures.size <= KEPT) break;
      one.close();
      pictures.delete(old);
    }
    return picture;
  }

  /** Brings every tile to the frame that is wanted; who asks meanwhile waits for the same. */
  function work(): Promise<void> {
    going ??= bring().finally(() => (going = null));
    return going;
  }

  async function bring() {
    const now = strip();
    if (!stage || !now || size[0] < 8) return;
    let left = true;
    while (left && stage) {
      left = false;
      for (const n of tiles.keys()) {
        const name = now.cells[n] && nameOf(now, n);
        if (!name || shown.get(n) === name) continue;
        const picture = pictures.get(name) ?? (await make(now, n, name));
        if (picture && nameOf(now, n) === name) paint(n, picture, name);
        else left = left || nameOf(now, n) !== name;
      }
      if (strip() !== now) break;
    }
    drawn.value = [...tiles.keys()].filter((n) => now.cells[n] && shown.get(n) === nameOf(now, n)).length;
    if (strip() !== now) await bring();
  }

  function lay(n: number, tile: HTMLCanvasElement | null) {
    if (tile) tiles.set(n, tile);
    else tiles.delete(n);
    shown.delete(n);
  }

  /** All tiles as they stand on one picture, in rows.
   * @param rows the variations of each; @param words what stands above each column and before each row */
  function sheet(rows: number[][], across: string[], down: string[]): HTMLCanvasElement {
    const [wide, tall] = size;
    const [left, top, gap] = [down.some((word) => word) ? 70 : 8, 26, 6];
    const all = document.createElement("canvas");
    all.width = left + across.length * (wide + gap);
    all.height = top + rows.length * (tall + gap);
    const context = all.getContext("2d", { alpha: false })!;
    context.fillStyle = "#13171a";
    context.fillRect(0, 0, all.width, all.height);
    context.fillStyle = "#ebe5d8";
    context.font = "12.5px 'Inter Variable', sans-serif";
    across.forEach((word, i) => context.fillText(word, left + i * (wide + gap), 17, wide));
    rows.forEach((row, j) => {
      const y = top + j * (tall + gap);
      context.fillText(down[j] ?? "", 6, y + tall / 2, left - 10);
      row.forEach((n, i) => {
        const tile = tiles.get(n);
        if (tile) context.drawImage(tile, left + i * (wide + gap), y, wide, tall);
      });
    });
    return all;
  }

  onUnmounted(() => {
    stage?.dispose();
    stage = null;
    volumes.dispose();
    for (const picture of pictures.values()) picture.close();
  });

  return { begin, work, turn, near, lay, forget, drawn, sheet };
}
