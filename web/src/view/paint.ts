import * as THREE from "three";
import type { Body } from "../api/types";
import { vary } from "./screen";
import { propFragment, propVertex } from "./shaders/props";

/** What a prop's surface is like: colour, how uneven, and in patches of so many metres. */
export interface Paint {
  colour: number[];
  uneven: number;
  size: number;
  /** How much of it stones lie on, and how large those are, metres. */
  stones: number;
  stone: number;
  /** What it has where its maps are strong, and the glow of what is on its way there. */
  second: number[];
  glow: number[];
  /** Shine, roughness and metal, and its own light. */
  made: number[];
  light: number[];
  /** Its picture, whether the picture's holes are open, whether light from all sides lights it alike. */
  picture: string | null;
  cut: boolean;
  even: boolean;
  opacity: number;
  /** How clear it is; how much of a metre's light it takes, and how much it bends. */
  clear: number;
  takes: number[];
  /** After so many metres light has the colour that it gets within. */
  deep: number;
  bends: number;
  casts: boolean;
  /** Where it broke, if it has another colour there. */
  inside: number[] | null;
}

const GREY = [0.3, 0.3, 0.3];

/** What nothing is told of. */
export const UNPAINTED: Paint = {
  colour: GREY,
  uneven: 0,
  size: 1,
  stones: 0,
  stone: 1,
  second: GREY,
  glow: [0, 0, 0],
  inside: null,
  made: [0, 0.5, 0],
  light: [0, 0, 0],
  picture: null,
  cut: true,
  even: false,
  opacity: 1,
  clear: 0,
  takes: [0, 0, 0],
  deep: 1,
  bends: 1,
  casts: true,
};

/** What a prop is drawn with. @param shared what lights all of them, and what is seen through clear ones */
export const propMaterial = (shared: Record<string, THREE.IUniform>) =>
  new THREE.ShaderMaterial({
    glslVersion: THREE.GLSL3,
    vertexShader: propVertex,
    fragmentShader: propFragment,
    side: THREE.DoubleSide,
    uniforms: {
      ...shared,
      tint: { value: new THREE.Vector3() },
      dyes: { value: 0 },
      inner: { value: new THREE.Vector3() },
      made: { value: new THREE.Vector3() },
      light: { value: new THREE.Vector3() },
      innerFrom: { value: 1e9 },
      picture: { value: null as THREE.Texture | null },
      pictured: { value: 0 },
      opacity: { value: 1 },
      clear: { value: 0 },
      takes: { value: new THREE.Vector4() },
      deep: { value: 1 },
      even: { value: 0 },
      sheer: { value: 0 },
      mixes: { value: 0 },
      second: { value: new THREE.Vector3() },
      glow: { value: new THREE.Vector3() },
      rough: { value: new THREE.Vector2(0, 1) },
      strewn: { value: new THREE.Vector2(0, 1) },
      picked: { value: 0 },
      feeds: { value: 0 },
      cut: { value: new THREE.Vector4() },
    },
  });

/** Gives a body its paint. */
export function wear(material: THREE.ShaderMaterial, paint: Paint, body: Body) {
  const { uniforms } = material;
  vary(material, "CLEAR", paint.clear > 0);
  uniforms.clear.value = paint.clear;
  uniforms.deep.value = paint.deep;
  uniforms.takes.value.set(...(paint.takes as [number, number, number]), paint.bends);
  uniforms.made.value.fromArray(paint.made);
  uniforms.light.value.fromArray(paint.light);
  uniforms.inner.value.fromArray(paint.inside ?? GREY);
  uniforms.innerFrom.value = paint.inside && body.inside !== undefined ? 3 * body.inside : 1e9;
  uniforms.second.value.fromArray(paint.second);
  uniforms.glow.value.fromArray(paint.glow);
  uniforms.tint.value.fromArray(paint.colour);
  uniforms.rough.value.set(paint.uneven, paint.size);
  uniforms.strewn.value.set(paint.stones, paint.stone);
}
