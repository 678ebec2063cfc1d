import { defineStore } from "pinia";
import { ref } from "vue";
import { api, checkSize } from "../api/client";
import type { Mesh } from "../api/types";
import { useCatalog } from "./catalog";
import { useDesk } from "./desk";

const OUTLINE = /\.svg$/i;
const VOLUME = /\.vdb$/i;
const PICTURE = /\.(png|jpe?g|tiff?|exr|hdr)$/i;

/** Files that are brought into the shot: read first, looked at, then placed. */
export const useArrivals = defineStore("arrivals", () => {
  const desk = useDesk();
  const catalog = useCatalog();
  /** What was read and waits for a word on where it goes. */
  const mesh = ref<Mesh | null>(null);
  const place = ref<number[] | null>(null);
  /** What is being read. */
  const reading = ref("");

  /** @param where on the ground, or as it stands in the file */
  async function bring(files: File[], where: number[] | null) {
    if (!files.length || reading.value) return;
    reading.value = files.length === 1 ? files[0].name : `${files.length} files`;
    if (files.length === 1 && OUTLINE.test(files[0].name)) return raise(files[0], where);
    if (files.length === 1 && VOLUME.test(files[0].name)) return volume(files[0]);
    if (files.length === 1 && PICTURE.test(files[0].name)) return card(files[0], where);
    const found = await desk.attempt(async () => {
      files.forEach((file) => checkSize(file, catalog.catalog?.limits.file ?? Infinity));
      const general = desk.byId.get("general");
      return api.bringMeshes(files, general ? (catalog.read(general, "rate") as number) : 24);
    });
    reading.value = "";
    if (!found) return;
    place.value = where;
    mesh.value = found;
  }

  /** An outline comes in as a prop at once; how it is raised is told by its dials. */
  async function raise(file: File, where: number[] | null) {
    const drawing = await desk.attempt(() => api.bringDrawing(file));
    await stand(file, drawing && { shape: "drawing", drawing: drawing.digest }, 0.5, where);
  }

  /** A volume comes in as a sculpt that begins with it, as it stands in the file. */
  async function volume(file: File) {
    const found = await desk.attempt(() => api.bringVolume(file));
    reading.value = "";
    if (!found) return;
    const before = new Set(desk.nodes.map((node) => node.id));
    await desk.edit([
      {
        do: "add",
        kind: "sculpt",
        name: plain(file),
        dials: { from: "file", volume: found.digest, voxel: found.facts.voxel, room: 0 },
      },
    ]);
    desk.chapter = "sculpt";
    desk.selected = desk.nodes.find((node) => !before.has(node.id))?.id ?? null;
  }

  /** A file's name without its ending. */
  const plain = (file: File) => file.name.replace(/\.[a-z0-9]+$/i, "").slice(0, 80) || "Brought";

  /** A picture comes in as a card, upright on the ground, a metre high. */
  async function card(file: File, where: number[] | null) {
    const picture = await desk.attempt(() => api.bringPicture(file));
    const { width, height } = picture?.facts ?? {};
    const size = [width && height ? Math.round((1000 * width) / height) / 1000 : 1, 1, 1];
    const dials = { shape: "card", picture: picture?.digest, size, light_colour: [1, 1, 1] };
    await stand(file, picture && dials, 0.5, where);
  }

  async function stand(
    file: File,
    what: Record<string, unknown> | null | undefined,
    up: number,
    where: number[] | null,
  ) {
    reading.value = "";
    if (!what) return;
    const before = new Set(desk.nodes.map((node) => node.id));
    const dials = { ...what, position: [where?.[0] ?? 0, up, where?.[2] ?? 0] };
    await desk.edit([{ do: "add", kind: "prop", name: plain(file), dials }]);
    desk.chapter = "props";
    desk.selected = desk.nodes.find((node) => !before.has(node.id))?.id ?? null;
  }

  async function put(choices: { unit: string; up: string; apart: boolean; others: boolean }) {
    const { shot } = desk;
    if (!shot || !mesh.value) return;
    const body = { ...choices, mesh: mesh.value.digest, place: place.value };
    const answer = await desk.attempt(() => api.arrive(shot.id, body));
    if (!answer) return;
    mesh.value = null;
    desk.take(answer);
    desk.chapter = "props";
    desk.selected = answer.props[0] ?? null;
  }

  return { mesh, place, reading, bring, put, drop: () => (mesh.value = null) };
});
