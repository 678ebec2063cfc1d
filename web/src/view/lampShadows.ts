import * as THREE from "three";
import type { Casters } from "./casters";

/** Pixels along one side of what a lamp sees to one side. */
const EDGE = 512;
const SIDES = 6;
/** Where a lamp's row has what kind of lamp it is, the way it shines and the cosine at its edge. */
const KIND = 8;
const WAY = 9;
const END = 12;
/** Half a side's diagonal, as a cosine: what a cone does not reach is not drawn. */
const CORNER = Math.acos(1 / Math.sqrt(3));

/** What is right, up and ahead for each side: +x, -x, +y, -y, +z, -z. The shader takes the same. */
const FACES = [
  [0, 0, 1, 0, 1, 0, 1, 0, 0],
  [0, 0, -1, 0, 1, 0, -1, 0, 0],
  [1, 0, 0, 0, 0, 1, 0, 1, 0],
  [-1, 0, 0, 0, 0, 1, 0, -1, 0],
  [-1, 0, 0, 0, 1, 0, 0, 0, 1],
  [1, 0, 0, 0, 1, 0, 0, 0, -1],
];

const vector = (numbers: number[], from = 0) => new THREE.Vector3().fromArray(numbers, from);

/** Whether any of a lamp's light goes to a side. @param row the lamp's */
export function reaches(row: number[], face: number): boolean {
  if (!(row[KIND] > 0)) return true;
  const off = Math.acos(Math.min(Math.max(vector(row, WAY).normalize().dot(vector(FACES[face], 6)), -1), 1));
  const half = row[KIND] > 1.5 ? Math.PI / 2 : Math.acos(Math.min(Math.max(row[END], -1), 1));
  return off < half + CORNER;
}

/** What lamps see of the props all around, a row of six sides for each, so that these shade what lies behind them. */
export class LampShadows {
  readonly target = new THREE.WebGLRenderTarget(4, 4, { depthTexture: new THREE.DepthTexture(4, 4) });
  private camera = new THREE.PerspectiveCamera(90, 1, 0.01, 100);
  private plain = new THREE.MeshBasicMaterial({ colorWrite: false, side: THREE.DoubleSide });

  /** @param lamps rows of those that throw shadows
   * @return how near and how far each sees; nothing where no prop throws any */
  draw(
    renderer: THREE.WebGLRenderer,
    scene: THREE.Scene,
    casters: Casters,
    lamps: number[][],
  ): [number, number][] {
    const { ball } = casters;
    if (!ball || !lamps.length) return [];
    this.size(lamps.length);
    let reach: [number, number][] = [];
    casters.alone(scene, this.plain, () => {
      reach = lamps.map((row, n) => this.one(renderer, scene, row, n, ball));
    });
    this.target.scissorTest = false;
    this.target.viewport.set(0, 0, this.target.width, this.target.height);
    return reach;
  }

  private size(count: number) {
    const { target } = this;
    if (target.width !== SIDES * EDGE || target.height !== count * EDGE)
      target.setSize(SIDES * EDGE, count * EDGE);
  }

  private one(
    renderer: THREE.WebGLRenderer,
    scene: THREE.Scene,
    row: number[],
    n: number,
    ball: THREE.Sphere,
  ): [number, number] {
    const { camera, target } = this;
    const at = vector(row, 1);
    camera.far = at.distanceTo(ball.center) + ball.radius;
    camera.near = camera.far / 2000;
    camera.updateProjectionMatrix();
    camera.matrixAutoUpdate = false;
    FACES.forEach((face, side) => {
      if (!reaches(row, side)) return;
      camera.matrix.makeBasis(vector(face), vector(face, 3), vector(face, 6).negate()).setPosition(at);
      camera.updateMatrixWorld(true);
      for (const area of [target.viewport, target.scissor]) area.set(side * EDGE, n * EDGE, EDGE, EDGE);
      target.scissorTest = true;
      renderer.setRenderTarget(target);
      renderer.clear();
      renderer.render(scene, camera);
    });
    return [camera.near, camera.far];
  }

  dispose() {
    this.target.dispose();
    this.plain.dispose();
  }
}
