import * as THREE from "three";
import { lightTarget, pass, screenMaterial } from "./screen";
import { blur } from "./shaders/finish";

/** How wide the lens spreads light, in parts of the picture's width, as the picture has it. */
const WIDTHS = [0.004, 0.016, 0.06];
/** The wider, the smaller the picture that is wide enough for it: so many pixels are one of it. */
const COARSE = [4, 8, 16];

const part = (size: number, times: number) => Math.max(4, Math.round(size / times));

/** The light that the lens spreads around what is bright, at a part of the picture's size. */
export class Halo {
  readonly spread = WIDTHS.map(() => lightTarget());
  private between = WIDTHS.map(() => lightTarget());
  private material = screenMaterial(blur, {
    light: { value: null },
    way: { value: new THREE.Vector2() },
    sigma: { value: 1 },
  });

  setSize(width: number, height: number) {
    for (const each of [this.spread, this.between])
      each.forEach((one, n) =>
        one.setSize(...([width, height].map((size) => part(size, COARSE[n])) as [number, number])),
      );
  }

  /** @param light of the whole picture */
  draw(renderer: THREE.WebGLRenderer, light: THREE.Texture) {
    const { light: from, way, sigma } = this.material.uniforms;
    this.spread.forEach((into, n) => {
      sigma.value = Math.min(Math.max(WIDTHS[n] * into.width, 0.5), 16);
      // The wider ones go on from the narrower one, which saves looking far.
      from.value = n ? this.spread[n - 1].texture : light;
      way.value.set(1 / into.width, 0);
      renderer.setRenderTarget(this.between[n]);
      pass(renderer, this.material);
      from.value = this.between[n].texture;
      way.value.set(0, 1 / into.height);
      renderer.setRenderTarget(into);
      pass(renderer, this.material);
    });
  }

  dispose() {
    for (const each of [...this.spread, ...this.between]) each.dispose();
    this.material.dispose();
  }
}
