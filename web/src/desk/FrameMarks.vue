<script setup lang="ts">
import { computed } from "vue";
import type { ShotNode, Value } from "../api/types";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import { useHand } from "../stores/hand";
import { driftOf, valueAt } from "./spotOf";

/** Masks and tracked spots in the finished frame: what is picked can be moved and sized there. */
const props = defineProps<{ width: number; height: number }>();
const desk = useDesk();
const catalog = useCatalog();
const hand = useHand();

/** What a dial stands at here and now. */
function at(node: ShotNode, dial: string): number {
  const held = hand.held;
  if (held?.node === node.id && held.dial === dial) return held.value as number;
  return valueAt(desk, catalog, node, dial, desk.frame) as number;
}

const picked = computed(() => desk.byId.get(desk.selected ?? ""));
const what = computed(() => (picked.value?.kind === "mask" ? catalog.read(picked.value, "what") : ""));
const placed = computed(() => ["oval", "box", "ramp"].includes(String(what.value)));
const spots = computed(() => desk.nodes.filter((node) => node.kind === "track"));

/** How far what it goes with has gone, pixels. */
const drift = computed(() => {
  const node = picked.value;
  if (node?.kind !== "mask") return [0, 0];
  const [dx, dy] = driftOf(desk, catalog, node, props.width / props.height);
  return [dx * props.width, dy * props.height];
});

const x = (percent: number) => (percent / 100) * props.width;
const y = (percent: number) => (percent / 100) * props.height;
const long = (percent: number) => (percent / 100) * props.height;

const shape = computed(() => {
  const node = picked.value;
  if (!node || !placed.value) return null;
  const sized = what.value !== "ramp";
  return {
    x: x(at(node, "x")) + drift.value[0],
    y: y(at(node, "y")) + drift.value[1],
    a: sized ? long(at(node, "width")) / 2 : 40,
    b: sized ? long(at(node, "height")) / 2 : 0,
    turn: at(node, "turn"),
  };
});

/** The places of an outline here and now. */
function places(node: ShotNode): number[][] {
  const held = hand.held;
  if (held?.node === node.id && held.dial === "points") return held.value as unknown as number[][];
  return valueAt(desk, catalog, node, "points", desk.frame) as unknown as number[][];
}

const points = computed(() => {
  const node = picked.value;
  if (!node || what.value !== "outline") return [];
  const [dx, dy] = [at(node, "across"), at(node, "along")];
  return places(node).map(([px, py]) => [x(px + dx) + drift.value[0], y(py + dy) + drift.value[1]]);
});

const inserted = (list: number[][], at: number, one: number[]) => [
  ...list.slice(0, at),
  one,
  ...list.slice(at),
];

/** All of an outline's keys have as many places: what is done to one here is done to the others where they are. */
function reshape(node: ShotNode, change: (list: number[][]) => number[][]) {
  const keys = node.keys.points ?? [];
  if (!keys.length) return void desk.turn(node.id, "points", change(places(node)));
  const place = { node: node.id, dial: "points" };
  const frames = new Set(keys.map((key) => key.frame)).add(desk.frame);
  const shown = places(node);
  const at = (frame: number) =>
    frame === desk.frame ? shown : (keys.find((key) => key.frame === frame)!.value as unknown as number[][]);
  // A key alone may have any number, so all but one go before the first is changed.
  void desk.edit([
    ...keys.map(({ frame }) => ({ do: "drop_key" as const, ...place, frame })),
    ...[...frames].map((frame) => ({ do: "key" as const, ...place, frame, value: change(at(frame)) })),
  ]);
}
const round = (n: number) => Math.round(n * 100) / 100;

/** Follows the pointer until it is let go, then sets what it has come to. */
function drag(event: PointerEvent, move: (dx: number, dy: number) => [string, Value][]) {
  const node = picked.value;
  if (!node || event.button) return;
  event.preventDefault();
  event.stopPropagation();
  const [fromX, fromY] = [event.clientX, event.clientY];
  const target = event.currentTarget as Element;
  target.setPointerCapture(event.pointerId);
  let last: [string, Value][] = [];
  const go = (moved: Event) => {
    const { clientX, clientY } = moved as PointerEvent;
    last = move(clientX - fromX, clientY - fromY);
    // One dial can be looked at under the hand; both are set.
    if (last[0]) hand.hold(node.id, last[0][0], last[0][1]);
  };
  const done = async () => {
    target.removeEventListener("pointermove", go);
    hand.drop(true);
    for (const [dial, value] of last) await desk.turn(node.id, dial, value);
  };
  target.addEventListener("pointermove", go);
  target.addEventListener("pointerup", () => void done(), { once: true });
}

function shift(event: PointerEvent) {
  const node = picked.value!;
  const [fromX, fromY] = [at(node, "x"), at(node, "y")];
  drag(event, (dx, dy) => [
    ["x", round(fromX + (100 * dx) / props.width)],
    ["y", round(fromY + (100 * dy) / props.height)],
  ]);
}

function size(event: PointerEvent) {
  const node = picked.value!;
  const [w, h] = [at(node, "width"), at(node, "height")];
  drag(event, (dx, dy) => [
    ["width", round(Math.max(w + (200 * dx) / props.height, 0))],
    ["height", round(Math.max(h + (200 * dy) / props.height, 0))],
  ]);
}

function point(event: PointerEvent, n: number) {
  const node = picked.value!;
  const list = places(node);
  if (event.altKey) return reshape(node, (all) => all.filter((_, at) => at !== n));
  drag(event, (dx, dy) => [
    [
      "points",
      list.map((one, at) =>
        at === n
          ? [round(one[0] + (100 * dx) / props.width), round(one[1] + (100 * dy) / props.height), one[2]]
          : one,
      ),
    ],
  ]);
}

/** A new point of an outline, between the two nearest ones. */
function more(event: MouseEvent) {
  const node = picked.value;
  if (!node || what.value !== "outline") return;
  const box = (event.currentTarget as Element).getBoundingClientRect();
  const [dx, dy] = [at(node, "across"), at(node, "along")];
  const fresh = [
    round((100 * (event.clientX - box.left - drift.value[0])) / box.width - dx),
    round((100 * (event.clientY - box.top - drift.value[1])) / box.height - dy),
    0,
  ];
  const list = places(node);
  const far = (a: number[], b: number[]) => Math.hypot(a[0] - b[0], a[1] - b[1]);
  const gaps = list.map(
    (one, n) =>
      far(one, fresh) + far(fresh, list[(n + 1) % list.length]) - far(one, list[(n + 1) % list.length]),
  );
  const after = list.length < 3 ? list.length : gaps.indexOf(Math.min(...gaps)) + 1;
  // Where it is at other keys nobody has said: between its neighbours there, as here.
  const share = ([ax, ay]: number[], [bx, by]: number[]) =>
    ((fresh[0] - ax) * (bx - ax) + (fresh[1] - ay) * (by - ay)) / ((bx - ax) ** 2 + (by - ay) ** 2 || 1);
  reshape(node, (all) => {
    if (all === list || all.length < 3) return inserted(all, after, fresh);
    const [a, b] = [after - 1, after].map((n) => all[n % all.length]);
    const part = share(list[after - 1], list[after % list.length]);
    return inserted(
      all,
      after,
      a.map((c, n) => round(c + part * (b[n] - c))),
    );
  });
}
</script>

<template>
  <svg :class="{ draws: what === 'outline' }" :width="width" :height="height" data-marks @dblclick="more">
    <g v-if="shape" :transform="`translate(${shape.x} ${shape.y}) rotate(${shape.turn})`">
      <ellipse v-if="what === 'oval'" class="line" :rx="shape.a" :ry="shape.b" />
      <rect
        v-else-if="what === 'box'"
        class="line"
        :x="-shape.a"
        :y="-shape.b"
        :width="2 * shape.a"
        :height="2 * shape.b"
      />
      <line v-else class="line" :x1="-width" :x2="width" />
      <circle class="grip" r="7" data-grip="middle" @pointerdown="shift">
        <title>Drag it to where the mask shall be</title>
      </circle>
      <rect
        v-if="what !== 'ramp'"
        class="grip"
        :x="shape.a - 6"
        :y="shape.b - 6"
        width="12"
        height="12"
        data-grip="size"
        @pointerdown="size"
      >
        <title>Drag it to size the mask</title>
      </rect>
    </g>
    <g v-if="what === 'outline'">
      <polygon class="line" :points="points.map((one) => one.join(',')).join(' ')" />
      <circle
        v-for="([px, py], n) in points"
        :key="n"
        class="grip"
        r="6"
        :cx="px"
        :cy="py"
        :data-point="n"
        @pointerdown="point($event, n)"
      >
        <title>Drag it; with Alt it goes</title>
      </circle>
      <text v-if="points.length < 3" class="hint" :x="width / 2" :y="height / 2">
        Double-click three places or more around what shall count
      </text>
    </g>
    <g v-for="spot in spots" :key="spot.id" :class="{ faint: spot.id !== picked?.id }">
      <g :transform="`translate(${x(at(spot, 'x'))} ${y(at(spot, 'y'))})`">
        <rect
          class="line"
          :x="-long(at(spot, 'pattern')) / 2"
          :y="-long(at(spot, 'pattern')) / 2"
          :width="long(at(spot, 'pattern'))"
          :height="long(at(spot, 'pattern'))"
        />
        <rect
          v-if="spot.id === picked?.id"
          class="line search"
          :x="-long(at(spot, 'pattern')) / 2 - long(at(spot, 'search'))"
          :y="-long(at(spot, 'pattern')) / 2 - long(at(spot, 'search'))"
          :width="long(at(spot, 'pattern')) + 2 * long(at(spot, 'search'))"
          :height="long(at(spot, 'pattern')) + 2 * long(at(spot, 'search'))"
        />
        <path class="line" d="M-6 0H6M0-6V6" />
        <circle
          v-if="spot.id === picked?.id"
          class="grip clear"
          :r="Math.max(long(at(spot, 'pattern')) / 2, 8)"
          data-grip="spot"
          @pointerdown="shift"
        >
          <title>Drag it onto the spot</title>
        </circle>
      </g>
    </g>
  </svg>
</template>

<style scoped>
svg {
  position: absolute;
  inset: 0;
  overflow: visible;
  pointer-events: none;
}

svg.draws {
  pointer-events: auto;
}

.line {
  fill: none;
  stroke: #dfe6b0;
  stroke-width: 1.2;
  paint-order: stroke;
  filter: drop-shadow(0 0 1px #000);
}

.search {
  stroke-dasharray: 4 4;
}

.faint {
  opacity: 0.5;
}

.grip {
  fill: #dfe6b0;
  fill-opacity: 0.75;
  stroke: #13171a;
  pointer-events: auto;
  cursor: move;
}

.clear {
  fill-opacity: 0;
  stroke: none;
}

.hint {
  fill: #dfe6b0;
  font-size: 13px;
  text-anchor: middle;
}
</style>
