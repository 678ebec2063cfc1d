import type { Component } from "vue";
import CacheDial from "./CacheDial.vue";
import ChoiceDial from "./ChoiceDial.vue";
import ColourDial from "./ColourDial.vue";
import MeshDial from "./MeshDial.vue";
import NodeDial from "./NodeDial.vue";
import NumberDial from "./NumberDial.vue";
import NumberTrack from "./NumberTrack.vue";
import PiecesDial from "./PiecesDial.vue";
import PlacesDial from "./PlacesDial.vue";
import RampDial from "./RampDial.vue";
import StrokesDial from "./StrokesDial.vue";
import ShotDial from "./ShotDial.vue";
import SwitchDial from "./SwitchDial.vue";
import TextDial from "./TextDial.vue";
import VariedDial from "./VariedDial.vue";
import VectorDial from "./VectorDial.vue";

/** What a type of dial shows in its row, and below it. All take the dial, its node, the value and what sets it. */
export const fields: Record<string, { beside?: Component; below?: Component }> = {
  number: { beside: NumberDial, below: NumberTrack },
  whole: { beside: NumberDial, below: NumberTrack },
  switch: { beside: SwitchDial },
  choice: { beside: ChoiceDial },
  node: { beside: NodeDial },
  nodes: { beside: NodeDial },
  colour: { beside: ColourDial },
  mesh: { beside: MeshDial },
  picture: { beside: MeshDial },
  drawing: { beside: MeshDial },
  volume: { beside: MeshDial },
  cache: { beside: CacheDial },
  plate: { beside: MeshDial },
  table: { beside: MeshDial },
  shot: { beside: ShotDial },
  words: { below: TextDial },
  text: { below: TextDial },
  line: { below: TextDial },
  places: { below: PlacesDial },
  pieces: { below: PiecesDial },
  strokes: { below: StrokesDial },
  variations: { below: VariedDial },
  overrides: { below: VariedDial },
  ramp: { below: RampDial },
  vector: { below: VectorDial },
};
