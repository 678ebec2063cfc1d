<script setup lang="ts">
/** Brightness as a screen has it, up to which each band goes, and the band's colour: darks cool, middle grey green, lights
 * warm, what is lost white on red or violet. */
const BANDS: [number, string, string][] = [
  [2, "#7a2fb5", "lost in black"],
  [12, "#2c4a9e", "nearly black"],
  [30, "#2f7f96", "dark"],
  [44, "#4b5557", ""],
  [52, "#3f9c4b", "middle grey"],
  [70, "#7d8684", ""],
  [85, "#c9b458", "bright"],
  [97, "#dd8a34", "nearly white"],
  [101, "#e23b2e", "lost in white"],
];
const STEPS = 100;
const colours = Array.from(
  { length: STEPS },
  (_, n) => BANDS.find(([to]) => (100 * (n + 0.5)) / STEPS < to)![1],
);
const channel = (at: number) =>
  colours.map((colour) => parseInt(colour.slice(at, at + 2), 16) / 255).join(" ");
const grey = "0.2126 0.7152 0.0722 0 0 ";
</script>

<template>
  <div class="bands">
    <svg width="0" height="0" aria-hidden="true">
      <filter id="brightness-bands" color-interpolation-filters="sRGB">
        <feColorMatrix type="matrix" :values="`${grey}${grey}${grey}0 0 0 1 0`" />
        <feComponentTransfer>
          <feFuncR type="discrete" :tableValues="channel(1)" />
          <feFuncG type="discrete" :tableValues="channel(3)" />
          <feFuncB type="discrete" :tableValues="channel(5)" />
        </feComponentTransfer>
      </filter>
    </svg>
    <ul>
      <li v-for="[to, colour, name] in BANDS.filter((band) => band[2])" :key="to">
        <span :style="{ background: colour }" />{{ name }}
      </li>
    </ul>
  </div>
</template>

<style scoped>
.bands {
  position: absolute;
  right: 8px;
  bottom: 8px;
  pointer-events: none;
}

ul {
  display: flex;
  gap: 10px;
  margin: 0;
  padding: 3px 8px;
  list-style: none;
  border-radius: 6px;
  background: rgb(16 20 22 / 80%);
  font-size: 11px;
}

li span {
  display: inline-block;
  width: 10px;
  height: 10px;
  margin-right: 4px;
  border-radius: 2px;
  vertical-align: -1px;
}
</style>
