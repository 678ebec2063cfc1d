import { onMounted, onUnmounted } from "vue";
import { useChosen } from "../stores/chosen";
import { useDesk } from "../stores/desk";
import { useTimes } from "../stores/times";
import { useClipboard } from "./useClipboard";
import { chapters } from "./chapters";

export const keyList: [string, string][] = [
  ["Space", "Play and stop"],
  ["← →", "A frame back or on; with Shift to the next key"],
  ["Home End", "First and last frame"],
  ["1 … 9", "Chapters"],
  [", . ;", "Play from here, to here, all of it"],
  ["Shift+M", "A marker at this frame"],
  ["R, Shift+R", "Run a draft, run in full"],
  ["P", "Take a print"],
  ["S", "A contact sheet of twelve frames"],
  ["Shift+T", "Test strips; with a dial in focus that one varies"],
  ["B", "Wipe between two prints"],
  ["[ ]", "Through the prints"],
  ["V", "Look through the camera"],
  ["D", "Develop the view: the finished picture, finer while nothing moves"],
  [
    "Shift D",
    "Make only what lies about the pointer in full, in the view or the finished frame, or all again",
  ],
  ["0", "See all chambers"],
  ["C", "See what is picked"],
  ["M, T, Z", "Handles to move, turn and size what is picked; Shift in steps, of places along the grid"],
  ["L", "Hide lines and marks, or show them"],
  ["N", "Set or take away a key on the dial in focus"],
  ["/", "Find anything: a dial, a thing, a print, a run, something to do"],
  ["H", "The history of the shot, as a tree"],
  ["Ctrl+Z", "Undo; with Shift redo"],
  ["Ctrl+C, Ctrl+V", "Copy what is picked and put it in, here or in another shot"],
  ["Delete", "Take away what is picked"],
  ["Shift+click", "In the view or on a card: choose one more, to move, align, group or take away together"],
  ["On a number", "Drag it, or arrows; Alt for fine, Shift for coarse, Enter to type, Esc to give up"],
  ["In the view", "Drag to turn, right drag to shift, wheel to come near"],
  ["On what is picked", "Drag along the floor; Alt up and down, Shift along the grid or off it"],
  ["On a key", "Drag or arrows move it, Alt drags a copy, Shift picks several, Delete takes it away"],
  [
    "In the timeline",
    "Drag over keys picks them, Ctrl+A all; + − * come nearer, go away, show all; Page up and down shift",
  ],
  ["On the ruler", "Drag goes through the frames; with Shift it says what is played over and over"],
  ["On a print", "Shift+click picks a second one to wipe"],
  ["?", "This list"],
];

export interface KeyActions {
  strip: () => void;
  find: () => void;
  help: () => void;
  history: () => void;
  wipe: () => void;
  turnPrint: (by: number) => void;
  fit: () => void;
  camera: () => void;
  lines: () => void;
  develop: () => void;
  crop: () => void;
  picked: () => void;
  grip: (one: "move" | "turn" | "size") => void;
  escape: () => void;
}

/** The desk's keys. They never act while something is being typed. */
export function useKeys(actions: KeyActions) {
  const desk = useDesk();
  const chosen = useChosen();
  const times = useTimes();
  const clipboard = useClipboard();

  function typing(event: KeyboardEvent): boolean {
    const target = event.target as HTMLElement;
    return target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName);
  }

  function nextKey(way: number) {
    const frames = [
      ...new Set((desk.shot?.timeline ?? []).flatMap((row) => row.keys.map((key) => key.frame))),
    ].sort((a, b) => a - b);
    const next =
      way > 0
        ? frames.find((frame) => frame > desk.frame)
        : frames.filter((frame) => frame < desk.frame).at(-1);
    if (next !== undefined) desk.go(next);
  }

  function press(event: KeyboardEvent) {
    // A dialog has keys of its own; nothing acts behind it.
    if (document.querySelector("[role='dialog'][aria-modal='true']")) return;
    if (event.key === "Escape") return actions.escape();
    if (typing(event)) return;
    if (event.ctrlKey || event.metaKey) {
      const act = {
        z: () => desk.step(event.shiftKey ? "redo" : "undo"),
        // Words that are marked are copied as ever.
        c: getSelection()?.toString() ? undefined : clipboard.copy,
        v: clipboard.paste,
      }[event.key.toLowerCase()];
      if (!act) return;
      event.preventDefault();
      return void act();
    }
    if (event.altKey) return;
    const chapter = chapters.find((candidate) => String(candidate.number) === event.key);
    const button = (event.target as HTMLElement).tagName === "BUTTON";
    const acts: Record<string, () => unknown> = {
      " ": () => !button && (desk.playing = !desk.playing),
      ArrowLeft: () => (event.shiftKey ? nextKey(-1) : desk.go(desk.frame - 1)),
      ArrowRight: () => (event.shiftKey ? nextKey(1) : desk.go(desk.frame + 1)),
      Home: () => desk.go(desk.first),
      End: () => desk.go(desk.last),
      r: () => desk.run("draft"),
      R: () => desk.run("full"),
      p: () => desk.takePrint(),
      s: () => desk.takeSheet(),
      T: actions.strip,
      b: actions.wipe,
      "[": () => actions.turnPrint(1),
      "]": () => actions.turnPrint(-1),
      v: actions.camera,
      d: actions.develop,
      D: actions.crop,
      "0": actions.fit,
      ",": () => times.setLoop(desk.frame, times.loop?.to ?? desk.last),
      ".": () => times.setLoop(times.loop?.from ?? desk.first, desk.frame),
      ";": () => (times.loop = null),
      M: () =>
        desk.edit([{ do: "add", kind: "marker", name: `Frame ${desk.frame}`, dials: { frame: desk.frame } }]),
      l: actions.lines,
      c: actions.picked,
      m: () => actions.grip("move"),
      t: () => actions.grip("turn"),
      z: () => actions.grip("size"),
      n: () =>
        (
          document.activeElement?.closest("[data-dial]")?.querySelector("[data-key]") as HTMLElement | null
        )?.click(),
      h: actions.history,
      "/": actions.find,
      "?": actions.help,
      Delete: chosen.takeAway,
    };
    const act = chapter ? () => (desk.chapter = chapter.name) : acts[event.key];
    if (!act || (button && event.key === " ")) return;
    event.preventDefault();
    // Who goes to a frame wants to stay there.
    if (event.key.startsWith("Arrow") || event.key === "Home" || event.key === "End") desk.playing = false;
    act();
  }

  onMounted(() => window.addEventListener("keydown", press));
  onUnmounted(() => window.removeEventListener("keydown", press));
}
