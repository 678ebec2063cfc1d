import type { ShotNode } from "../api/types";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import { tints } from "../theme";

/** Of a prop without a body. */
const MARK = "#d9cfa8";

/** What has no shape of its own and is shown by marks and lines: lamps, forces, emitters. */
export function useMarks() {
  const desk = useDesk();
  const catalog = useCatalog();
  const list = (node: ShotNode, dial: string) => catalog.read(node, dial) as number[];
  /** Where it is now, whatever it goes with. */
  const spot = (node: ShotNode) =>
    desk.shot?.led[node.id]?.[desk.frame - desk.first] ?? list(node, "position");

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

  /** What the surface of each prop is like. */
  function paints() {
    return desk.nodes
      .filter((node) => node.kind === "prop")
      .map((node) => {
        const depth = catalog.read(node, "clear_depth") as number;
        const bright = catalog.read(node, "between") as number;
        return [
          node.id,
          {
            colour: list(node, "colour"),
            uneven: catalog.read(node, "uneven") as number,
            size: catalog.read(node, "uneven_size") as number,
            stones: catalog.read(node, "stones") as number,
            stone: catalog.read(node, "stone_size") as number,
            second: list(node, "second"),
            glow: list(node, "between_colour").map((part) => part * bright),
            made: ["shine", "rough", "metal"].map((dial) => catalog.read(node, dial) as number),
            light: list(node, "light_colour").map((part) => part * (catalog.read(node, "light") as number)),
            picture: catalog.read(node, "picture") as string | null,
            cut: catalog.read(node, "cut") as boolean,
            even: catalog.read(node, "even_lit") as boolean,
            casts: catalog.read(node, "casts") as boolean,
            opacity: catalog.read(node, "opacity") as number,
            clear: catalog.read(node, "clear") as number,
            takes: list(node, "clear_colour").map((part) => -Math.log(Math.max(part, 1e-4)) / depth),
            bends: catalog.read(node, "bends") as number,
            inside: catalog.read(node, "inside_own") ? list(node, "inside") : null,
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

  return { feeding, list, marks, forces, paints };
}
