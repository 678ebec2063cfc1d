import * as THREE from "three";
import type { Scene as Rig } from "../api/types";
import { backdrop, backdropVertex } from "./shaders/finish";
import { Skyline } from "./skyline";
import { SkyTable } from "./skyTable";

/** Drawn after all that hides it. */
const LAST = 1000;
/** Seen by the view's camera alone: it throws no shadow. */
const LAYER = 1;

/** What stands behind everything, seen where no prop is: the plate, hills, the sky. */
export class Backdrop {
  readonly mesh: THREE.Mesh;
  private sky = new SkyTable();
  private skyline = new Skyline();
  private plate = new THREE.Texture();
  private material: THREE.ShaderMaterial;
  private was = "";

  constructor() {
    this.material = new THREE.ShaderMaterial({
      glslVersion: THREE.GLSL3,
      vertexShader: backdropVertex,
      fragmentShader: backdrop,
      depthWrite: false,
      uniforms: {
        hasty: { value: false },
        toWorld: { value: new THREE.Matrix4() },
        eye: { value: new THREE.Vector3() },
        plate: { value: this.plate },
        plated: { value: 0 },
        plateGain: { value: new THREE.Vector3(1, 1, 1) },
        ...this.sky.uniforms,
        ...this.skyline.uniforms,
      },
    });
    this.mesh = new THREE.Mesh(new THREE.PlaneGeometry(2, 2), this.material);
    this.mesh.frustumCulled = false;
    this.mesh.renderOrder = LAST;
    this.mesh.layers.set(LAYER);
  }

  /** Lets a camera see it. */
  static shownTo(camera: THREE.Camera) {
    camera.layers.enable(LAYER);
  }

  /** The sky's light by where it comes from, as shaders take it. */
  get table(): THREE.Texture {
    return this.sky.uniforms.skyTable.value;
  }

  /** @return whether it is another one now */
  setRig(rig: Rig): boolean {
    const gains = rig.film.slice(0, 3);
    const now = JSON.stringify([rig.sky, gains]);
    if (now === this.was) return false;
    this.was = now;
    this.sky.set(rig.sky);
    this.material.uniforms.plateGain.value.fromArray(gains.map((gain) => 1 / (gain || 1)));
    return true;
  }

  /** @param share how much of the view's height it takes */
  setPlate(picture: ImageBitmap | null, share: number) {
    this.material.uniforms.plated.value = picture ? share : 0;
    if (!picture || this.plate.image === picture) return;
    this.plate.dispose();
    this.plate.image = picture;
    this.plate.colorSpace = THREE.SRGBColorSpace;
    this.plate.minFilter = THREE.LinearFilter;
    this.plate.generateMipmaps = false;
    this.plate.needsUpdate = true;
  }

  /** Makes ready for a picture of so many rows. @param hasty without what hills are made of in themselves */
  prepare(renderer: THREE.WebGLRenderer, camera: THREE.PerspectiveCamera, height: number, hasty: boolean) {
    const { eye, toWorld } = this.material.uniforms;
    eye.value.setFromMatrixPosition(camera.matrixWorld);
    toWorld.value.copy(camera.matrixWorld).multiply(camera.projectionMatrixInverse);
    this.material.uniforms.hasty.value = hasty;
    this.skyline.uniforms.wide.value = (2 * Math.tan((camera.fov * Math.PI) / 360)) / height;
    this.skyline.draw(renderer, this.sky.uniforms.sky.value);
  }

  dispose() {
    for (const thing of [this.sky, this.skyline, this.plate, this.material, this.mesh.geometry])
      thing.dispose();
  }
}
