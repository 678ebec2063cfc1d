import { computed, type Ref } from "vue";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import { usePast } from "../stores/past";
import { chapters } from "./chapters";
import { useOpening } from "./useOpening";

/** Something that can be done, with its key if it has one. */
export interface Command {
  label: string;
  key?: string;
  act: () => unknown;
}

/** Something that is found by its name. */
export interface Find {
  id: string;
  label: string;
  /** What it is, and of what. */
  of: string;
  help?: string;
  /** Whether it belongs to the card that is open. */
  near: boolean;
  go: () => unknown;
}

/** All that has a name: dials, things, prints, runs, chapters and what can be done.
 * @param words what was typed */
export function useFinds(
  words: Ref<string>,
  more: { commands: Command[]; print: (number: number) => void; run: (number: number) => void },
) {
  const desk = useDesk();
  const catalog = useCatalog();
  const story = usePast();

  const open = useOpening();

  const dials = computed<Find[]>(() =>
    desk.nodes.flatMap((node) =>
      catalog
        .kind(node.kind)
        .dials.filter((dial) => catalog.applies(node, dial))
        .map((dial) => ({
          id: `${node.id}.${dial.name}`,
          label: dial.label,
          of: node.name,
          help: dial.help,
          near: node.id === desk.selected,
          go: () => open(node.id, dial.name),
        })),
    ),
  );
  const things = computed<Find[]>(() =>
    desk.nodes.map((node) => ({
      id: node.id,
      label: node.name,
      of: catalog.kind(node.kind).label.toLowerCase(),
      help: catalog.kind(node.kind).help,
      near: false,
      go: () => open(node.id),
    })),
  );
  const made = computed<Find[]>(() => [
    ...desk.prints.map(({ number, name, note, frame, changed }) => ({
      id: `print ${number}`,
      label: name || `P${number}`,
      of: `print ${number} of frame ${frame}`,
      help: note || changed,
      near: false,
      go: () => more.print(number),
    })),
    ...story.runs.map(({ number, quality, changed, cache }) => ({
      id: `run ${number}`,
      label: (cache && story.kept.get(cache)?.name) || `R${number}`,
      of: `${quality} run ${number}`,
      help: changed,
      near: false,
      go: () => more.run(number),
    })),
  ]);
  const commands = computed<Find[]>(() => [
    ...more.commands.map(({ label, key, act }) => ({
      id: `do ${label}`,
      label,
      of: key ? `command, ${key}` : "command",
      near: false,
      go: act,
    })),
    ...chapters.map(({ number, name, label }) => ({
      id: `chapter ${name}`,
      label,
      of: `chapter, ${number}`,
      near: false,
      go: () => (desk.chapter = name),
    })),
  ]);

  /** How well one answers: the less the better. What begins with the words comes first, then what stands in the card
   * that is open. */
  function rank(find: Find, asked: string): number {
    const label = find.label.toLowerCase();
    const text = `${label} ${find.of}`.toLowerCase();
    const place = label === asked ? 0 : label.startsWith(asked) ? 2 : text.startsWith(asked) ? 4 : 6;
    return place + (find.near ? 0 : 1);
  }

  return computed(() => {
    const asked = words.value.toLowerCase().trim();
    const parts = asked.split(/\s+/);
    // Before anything is typed, what one is at comes first.
    const all = [...dials.value, ...commands.value, ...things.value, ...made.value];
    return all
      .filter((find) => parts.every((word) => `${find.label} ${find.of}`.toLowerCase().includes(word)))
      .map((find, n) => ({ find, n, rank: rank(find, asked) }))
      .sort((a, b) => a.rank - b.rank || a.n - b.n)
      .map(({ find }) => find);
  });
}
