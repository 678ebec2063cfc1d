import { computed } from "vue";
import type { ShotNode } from "../api/types";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import { tints } from "../theme";

/** Of a prop without a body. */
const MARK = "#d9cfa8";

/** Dials of a prop that say where it is, not what it is like. */
const MOVES = ["position", "turn", "scale"];

/** What has no shape of its own and is shown by marks and lines: lamps, forces, emitters. */
export function useMarks() {
  const desk = useDesk();
  const catalog = useCatalog();
  const list = (node: ShotNode, dial: string) => catalog.read(node, dial) as number[];
  /** Where it is now, whatever it goes with. */
  const spot = (node: ShotNode) =>
    desk.shot?.led[node.id]?.[desk.frame - desk.first] ?? list(node, "position");

  /** Courses of what changes over time about the surfaces of props, by node and dial. */
  const timed = computed(() => {
    const rows = (desk.shot?.timeline ?? []).filter(
      (row) => row.kind === "prop" && !MOVES.includes(row.dial),
    );
    return new Map(rows.map((row) => [`${row.node}.${row.dial}`, row]));
  });

  function marks() {
    const placed = (kind: string) => desk.nodes.filter((node) => node.kind === kind);
    return [
      ...placed("lamp").map((node) => ({ node, colour: list(node, "colour") })),
      ...placed("force").map((node) => ({ node, colour: tints.speed })),
      ...placed("kick")
        .filter((node) => !catalog.read(node, "prop"))
        .map((node) => ({ node, colour: tints.liquid })),
      ...placed("blast").map((node) => ({ node, colour: tints.heat })),
      ...placed("emitter")
        .filter((node) => !catalog.read(node, "prop"))
        .map((node) => ({ node, colour: tints.heat })),
      ...placed("prop")
        .filter((node) => catalog.read(node, "shape") === "mark")
        .map((node) => ({ node, colour: MARK })),
    ].map(({ node, colour }) => ({
      id: node.id,
      position: spot(node),
      colour: Array.isArray(colour) ? `rgb(${colour.map((c) => Math.round(255 * c)).join()})` : colour,
    }));
  }

  function forces() {
    // The box that a kick acts in is seen as a force's is.
    const kicks = desk.nodes
      .filter((node) => node.kind === "kick" && !catalog.read(node, "prop"))
      .map((node) => ({
        id: node.id,
        falloff: "box",
        position: spot(node),
        lineEnd: spot(node),
        extent: list(node, "extent"),
        reach: 0,
        direction: list(node, "velocity"),
      }));
    const forces = desk.nodes
      .filter((node) => node.kind === "force")
      .map((node) => ({
        id: node.id,
        falloff: catalog.read(node, "falloff") as string,
        position: spot(node),
        lineEnd: list(node, "line_end"),
        extent: list(node, "extent"),
        reach: catalog.read(node, "reach") as number,
        direction: ["wind", "push", "swirl"].includes(catalog.read(node, "what") as string)
          ? list(node, "direction")
          : null,
      }));
    return [...forces, ...kicks];
  }

  /** What a dial is at a frame. */
  function timely(node: ShotNode, dial: string, frame: number) {
    const row = timed.value.get(`${node.id}.${dial}`);
    return row ? (row.raw ?? row.values)[frame - desk.first] : catalog.read(node, dial);
  }

  /** What the surface of each prop is like at a frame. */
  function paints(frame = desk.frame) {
    const now = (node: ShotNode, dial: string) => timely(node, dial, frame);
    return desk.nodes
      .filter((node) => node.kind === "prop")
      .map((node) => {
        const depth = now(node, "clear_depth") as number;
        const bright = now(node, "between") as number;
        // Where a texture says how much, about a third of it.
        const lit = now(node, "lit_by") ? 1 - 0.65 * (now(node, "lit_much") as number) : 1;
        return [
          node.id,
          {
            colour: now(node, "colour") as number[],
            uneven: now(node, "uneven") as number,
            size: now(node, "uneven_size") as number,
            stones: now(node, "stones") as number,
            stone: now(node, "stone_size") as number,
            second: now(node, "second") as number[],
            glow: (now(node, "between_colour") as number[]).map((part) => part * bright),
            made: ["shine", "rough", "metal"].map((dial) => now(node, dial) as number),
            light: (now(node, "light_colour") as number[]).map(
              (part) => part * lit * (now(node, "light") as number),
            ),
            picture: now(node, "picture") as string | null,
            cut: now(node, "cut") as boolean,
            even: now(node, "even_lit") as boolean,
            casts: now(node, "casts") as boolean,
            opacity: now(node, "opacity") as number,
            clear: now(node, "clear") as number,
            takes: (now(node, "clear_colour") as number[]).map(
              (part) => -Math.log(Math.max(part, 1e-4)) / depth,
            ),
            deep: depth,
            bends: now(node, "bends") as number,
            inside: now(node, "inside_own") ? (now(node, "inside") as number[]) : null,
          },
        ] as const;
      });
  }

  /** Props that something comes from, or is kicked in, at this frame, where no run shows it yet. */
  function feeding(): Set<string> {
    const found = new Set<string>();
    if (desk.row?.key || desk.row?.liquid) return found;
    const feeds = ["source", "inflow", "kick"];
    for (const row of desk.shot?.timeline ?? []) {
      const node = feeds.includes(row.kind) && row.dial === "strength" ? desk.byId.get(row.node) : null;
      if (!node || row.off || !((row.values[desk.frame - desk.first] ?? 0) > 0)) continue;
      if (row.kind !== "kick" && catalog.read(node, "from") === "particles") continue;
      const also = row.kind === "kick" ? [] : (catalog.read(node, "also") as string[]);
      for (const prop of [catalog.read(node, "prop"), ...also].flat())
        if (typeof prop === "string") found.add(prop);
    }
    return found;
  }

  /** Whether surfaces are others at other frames. */
  const changing = computed(() => timed.value.size > 0);

  return { feeding, list, marks, forces, paints, changing };
}
