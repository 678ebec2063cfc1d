import * as THREE from "three";
import { describe, expect, it, vi } from "vitest";
import { ClearThings } from "../src/view/clearThings";
import { Standing } from "../src/view/standing";

/** A renderer that tells what it drew into, and with what. */
function recording() {
  const drawn: { into: THREE.WebGLRenderTarget | null; as: THREE.Material | null }[] = [];
  let into: THREE.WebGLRenderTarget | null = null;
  const renderer = {
    setRenderTarget: (target: THREE.WebGLRenderTarget | null) => (into = target),
    clear: vi.fn(),
    render: (scene: THREE.Scene) => drawn.push({ into, as: scene.overrideMaterial }),
  };
  return { drawn, renderer: renderer as unknown as THREE.WebGLRenderer };
}

const things = () => {
  const scene = new THREE.Scene();
  return { scene, part: (_: boolean, draw: () => void) => draw() };
};

describe("clear things", () => {
  it("come in layers, the picture itself last, each before what was drawn", () => {
    const { renderer } = recording();
    const clear = new ClearThings();
    const standing = new Standing();
    standing.setSize(40, 30);
    const { uniforms } = clear;
    const seen: { into: THREE.WebGLRenderTarget; behind: THREE.Texture | null; passing: number }[] = [];
    for (const into of clear.layers(renderer, things(), new THREE.PerspectiveCamera(), standing))
      seen.push({ into, behind: uniforms.stillBehind.value, passing: uniforms.passing.value });
    expect(seen.length).toBe(3);
    expect(seen.map(({ passing }) => passing)).toEqual([1, 1, 0]);
    expect(seen.at(-1)!.into).toBe(standing.target);
    // The first looks at what was kept of all that is not clear, which no layer is drawn over.
    expect(seen[0].behind).toBe(standing.bare.target.textures[0]);
    expect(seen.map(({ into }) => into)).not.toContain(standing.bare.target);
    // What is looked at is never what is drawn into, and each layer looks at the one that was drawn before it.
    for (const { into, behind } of seen) expect(into.textures[0]).not.toBe(behind);
    expect(seen[1].behind).toBe(seen[0].into.textures[0]);
    expect(seen[2].behind).toBe(seen[1].into.textures[0]);
  });

  it("come in one layer, which is drawn at once, where the hand has no time for more", () => {
    const { renderer } = recording();
    const clear = new ClearThings();
    const standing = new Standing();
    const layers = clear.layers(renderer, things(), new THREE.PerspectiveCamera(), standing, 1);
    expect(layers.next().value).toBe(standing.target);
    expect(clear.uniforms.passing.value).toBe(0);
    expect(layers.next().done).toBe(true);
  });

  it("let smoke be seen behind them, and no farther than where they stand once they are gone", () => {
    const { renderer, drawn } = recording();
    const clear = new ClearThings();
    const standing = new Standing();
    standing.begin(renderer, 40, 30);
    expect(standing.sight).toBe(standing.target.depthTexture);
    clear.layers(renderer, things(), new THREE.PerspectiveCamera(), standing).next();
    expect(standing.sight).toBe(standing.through.depthTexture);
    expect(drawn.some(({ into }) => into === standing.through)).toBe(true);
    standing.begin(renderer, 40, 30);
    expect(standing.sight).toBe(standing.target.depthTexture);
  });

  it("tell how far with each one's own numbers", () => {
    const { renderer } = recording();
    const clear = new ClearThings();
    const standing = new Standing();
    const scene = new THREE.Scene();
    const mesh = new THREE.Mesh(
      new THREE.BufferGeometry(),
      new THREE.ShaderMaterial({
        uniforms: { clear: { value: 0.9 }, dyes: { value: 1 }, deep: { value: 2 }, takes: { value: 3 } },
      }),
    );
    const told: unknown[] = [];
    const part = (_: boolean, draw: () => void) => {
      const as = scene.overrideMaterial as THREE.ShaderMaterial;
      clear.worn(mesh, as);
      if (as.uniforms.deep) told.push(as.uniforms.clear.value, as.uniforms.deep.value);
      draw();
    };
    clear.layers(renderer, { scene, part }, new THREE.PerspectiveCamera(), standing).next();
    expect(told).toEqual([0.9, 2]);
  });
});
