import { computed, onUnmounted, ref, useTemplateRef, watch, type ShallowRef } from "vue";
import type { FrameRow } from "../api/types";
import { useDesk } from "../stores/desk";
import { BLINK, usePast } from "../stores/past";
import type { Stage } from "../view/stage";
import { volumeName, type Volumes } from "../view/volumes";
import type { useFrameView } from "./useFrameView";

/** Without a change for so long, both are drawn as fine as they get, ms. */
const REST = 500;
/** So many frames are fetched ahead. */
const AHEAD = 8;
/** Of two beside each other, so much of the view's width is seen. */
const MIDDLE = 0.7;
/** What differs is shown twice as strong so many times over. */
const DOUBLED = 2;

/** Two runs in one camera: each frame of both is drawn by the view, and the two pictures are laid against each other. */
export function useComparing(
  stage: ShallowRef<Stage | null>,
  volumes: Volumes,
  view: Pick<ReturnType<typeof useFrameView>, "page" | "place" | "uncover" | "show">,
) {
  const desk = useDesk();
  const story = usePast();
  const canvas = useTemplateRef<HTMLCanvasElement>("both");
  const on = computed(() => !!story.pair);
  /** What is painted: the frame and how many of the two are there. */
  const painted = ref("");
  let going: Promise<void> | null = null;
  let again = false;
  let second = false;
  let round = 0;
  let rest: ReturnType<typeof setTimeout> | undefined;
  let blink: ReturnType<typeof setInterval> | undefined;

  const rows = () => (story.both(desk.frame) ?? []).flatMap((row) => row ?? []);
  const picture = (row: FrameRow | undefined) =>
    row ? (stage.value?.book.get(view.page(row), false) ?? null) : null;

  async function draw(row: FrameRow) {
    const name = view.page(row);
    const there = stage.value;
    if (!there || !name || there.book.has(name)) return;
    if (await view.place(row, () => on.value)) await there.book.take(name, there.sketch(), false);
  }

  /** Has both of this frame drawn, and lays them against each other. */
  async function work() {
    if (!on.value || !stage.value) return;
    stage.value.giveUpAside();
    stage.value.covered = true;
    again = true;
    // Who asks meanwhile waits for the same.
    going ??= catchUp();
    await going;
  }

  async function catchUp() {
    while (again && on.value) {
      again = false;
      for (const row of rows()) await draw(row);
      paint();
    }
    going = null;
    ahead();
    settle();
  }

  function settle() {
    clearTimeout(rest);
    const mine = ++round;
    if (!desk.playing) rest = setTimeout(() => finer(mine), REST);
  }

  /** Draws what is not as fine as it gets yet, one after the other. */
  async function finer(mine: number) {
    const there = stage.value;
    const coarse = rows().find((row) => view.page(row) && !there?.book.fine(view.page(row)));
    if (!there || !coarse || mine !== round || !on.value || going) return;
    if (!(await view.place(coarse, () => mine === round && on.value))) return;
    there.drawAside(async (drawn) => {
      await there.book.take(view.page(coarse)!, drawn, true);
      if (mine !== round) return;
      paint();
      void finer(mine);
    });
  }

  function ahead() {
    for (let n = 1; n <= AHEAD && volumes.busy < 4; n++)
      for (const row of story.both(desk.frame + n) ?? []) {
        const name = volumeName(row);
        if (name && !volumes.has(name)) void volumes.fetch(name);
      }
  }

  function paint() {
    const [one, other] = (story.both(desk.frame) ?? []).map(picture);
    const place = canvas.value;
    const any = one ?? other;
    if (!place || !any) return void (painted.value = "");
    const [width, height] = [any.width, any.height];
    if (place.width !== width) place.width = width;
    if (place.height !== height) place.height = height;
    const context = place.getContext("2d", { alpha: false })!;
    context.globalCompositeOperation = "source-over";
    context.fillStyle = "#000";
    context.fillRect(0, 0, width, height);
    const how = {
      wipe: () => {
        const edge = Math.round((width * story.line) / 100);
        if (one && edge > 0) context.drawImage(one, 0, 0, edge, height, 0, 0, edge, height);
        const left = width - edge;
        if (other && left > 0) context.drawImage(other, edge, 0, left, height, edge, 0, left, height);
      },
      beside: () => {
        const part = width * MIDDLE;
        const tall = (height * 0.5) / MIDDLE;
        [one, other].forEach((each, n) => {
          if (!each) return;
          const at = [(n * width) / 2, (height - tall) / 2] as const;
          context.drawImage(each, (width - part) / 2, 0, part, height, ...at, width / 2, tall);
        });
      },
      blink: () => {
        const seen = second ? other : one;
        if (seen) context.drawImage(seen, 0, 0);
      },
      difference: () => {
        if (!one || !other) return;
        context.drawImage(one, 0, 0);
        context.globalCompositeOperation = "difference";
        context.drawImage(other, 0, 0);
        context.globalCompositeOperation = "lighter";
        for (let n = 0; n < DOUBLED; n++) context.drawImage(place, 0, 0);
      },
    };
    how[story.against]();
    painted.value = `${desk.frame} ${[one, other].filter((each) => each).length}`;
  }

  watch(on, (now) => {
    clearTimeout(rest);
    if (now) return void work();
    stage.value?.giveUpAside();
    view.uncover();
    stage.value?.next();
    void view.show();
  });
  watch(
    () => [story.rows, desk.row],
    () => on.value && void work(),
  );
  watch(() => [story.line, story.against], paint);
  watch(
    () => on.value && story.against === "blink",
    (now) => {
      clearInterval(blink);
      if (now) blink = setInterval(() => ((second = !second), paint()), BLINK);
    },
  );
  onUnmounted(() => {
    clearTimeout(rest);
    clearInterval(blink);
    story.stop();
  });

  return { on, painted, work, canvas };
}
