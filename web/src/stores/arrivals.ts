import { defineStore } from "pinia";
import { ref } from "vue";
import { api, checkSize } from "../api/client";
import type { Mesh } from "../api/types";
import { useCatalog } from "./catalog";
import { useDesk } from "./desk";

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
