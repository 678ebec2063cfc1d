import * as THREE from "three";
import { OrbitControls } from "three/examples/jsm/controls/OrbitControls.js";
import type { ChamberBox, Scene as Rig } from "../api/types";
import { Eye } from "./eye";
import { FlipBook } from "./flipBook";
import { Guides } from "./guides";
import { Handles } from "./handles";
import type { Marcher } from "./marcher";
import { boxEdges, frustumEdges, Outline } from "./outlines";
import { Pace } from "./pace";
import { PropShelf } from "./props";
import { Slice } from "./slice";
import { drawsInSoftware } from "./software";
import { Drawing } from "./drawing";
import { Drops } from "./drops";
import { Sparks } from "./sparks";
import type { Fog } from "./decode";
import type { Volume } from "./volumes";

/** Milliseconds without a change until the picture is drawn at full resolution. */
const QUIET = 200;
/** The same on a machine that needs long for it. */
const SLOW_QUIET = 900;
/** So long until it is asked again whether a part of it is drawn, milliseconds. */
const SOON = 4;

export interface Picked {
  id: string;
  point: THREE.Vector3;
  object: THREE.Mesh;
  /** Which triangle. */
  face?: number;
}

/** The three-dimensional view: props, the smoke, the chamber's edges, the camera one looks from. */
export class Stage {
  readonly camera = new THREE.PerspectiveCamera(38, 1, 0.02, 4000);
  readonly orbit: OrbitControls;
  readonly eye: Eye;
  readonly handles: Handles;
  readonly props: PropShelf;
  readonly marcher: Marcher;
  readonly guides = new Guides();
  readonly slice = new Slice();
  readonly sparks = new Sparks();
  readonly drops = new Drops();
  readonly book = new FlipBook();
  /** Whether the processor draws, which others need too. */
  readonly software: boolean;
  /** A kept picture lies over the view, so nothing is drawn under it. */
  get covered() {
    return this.lies.covered;
  }
  set covered(whether: boolean) {
    this.lies.covered = whether;
    this.wake();
  }
  /** Whether something finer lies over it that is worth all the machine can do. */
  get resting() {
    return this.lies.resting;
  }
  set resting(whether: boolean) {
    this.lies.resting = whether;
    this.wake();
  }
  /** Called when something but the frame has changed, and kept pictures are no longer right. */
  changed: () => void = () => {};
  /** Called after each picture. */
  drawn: () => void = () => {};

  private renderer: THREE.WebGLRenderer;
  private overlay = new THREE.Scene();
  private chamber = new Outline(0x8a928a, 0.55);
  private frustum = new Outline(0xbdd45e, 0.7);
  private drawing: Drawing;
  private lies = { covered: false, resting: false, hurried: false };
  private dirty = true;
  /** Whether the screen's next turn is asked for. */
  private asked = false;
  private alive = true;
  /** The next picture is on its way: this one need not become finer. */
  get hurried() {
    return this.lies.hurried;
  }
  set hurried(whether: boolean) {
    this.lies.hurried = whether;
    this.wake();
  }
  /** Pictures come anew again and again: rather coarse than late. */
  set urgent(urgent: boolean) {
    const { levels } = this.drawing;
    const over = levels.urgent && !urgent;
    levels.hurry(urgent);
    // What was drawn in a hurry is not kept, and what plays waits for what is: it is drawn once more.
    if (over && !this.fine) this.next();
  }
  /** Whether what is on the screen is not worth keeping. */
  get hasty() {
    return this.drawing.levels.urgent;
  }
  /** Frame after frame is shown: nothing else is to take its share of the machine meanwhile. */
  plays = false;
  /** What is seen of the frame, for what asks where it is dense. */
  volume: Volume | null = null;
  /** The canvas, in pixels. */
  private full = [4, 4];
  private fire: number[][] = [];
  private fireShown = true;
  private lines = true;
  /** Whether what is shown is as fine as it gets, and since when nothing moved. */
  private fine = false;
  private refining: Generator<void> | null = null;
  /** Whether it is to be asked again soon if a part of it is drawn. */
  private asking = false;
  private pace: Pace;
  private quiet = 0;
  /** Told when the picture that is drawn under a kept one is there. */
  private aside: ((canvas: HTMLCanvasElement) => void) | null = null;

  constructor(canvas: HTMLCanvasElement) {
    this.renderer = new THREE.WebGLRenderer({
      canvas,
      antialias: false,
      powerPreference: "high-performance",
    });
    this.renderer.outputColorSpace = THREE.LinearSRGBColorSpace;
    this.renderer.autoClear = false;
    this.props = new PropShelf();
    this.props.changed = () => this.touch();
    this.drawing = new Drawing(this.renderer, this.camera, this.props);
    this.marcher = this.drawing.marcher;
    const gl = this.renderer.getContext() as WebGL2RenderingContext;
    this.pace = new Pace(gl, this.drawing.levels);
    this.software = drawsInSoftware(gl);
    if (this.software) this.drawing.levels.coarsen();
    this.orbit = new OrbitControls(this.camera, canvas);
    this.eye = new Eye(this.camera, this.orbit);
    this.orbit.enableDamping = false;
    this.orbit.screenSpacePanning = true;
    this.orbit.addEventListener("change", () => this.touch());
    this.orbit.addEventListener("start", () => {
      this.eye.leave();
    });
    this.handles = new Handles(this.camera, canvas, (held) => (this.orbit.enabled = !held));
    this.handles.changed = () => {
      this.props.stale();
      this.next();
    };
    this.overlay.add(
      this.handles.helper,
      this.sparks.lines,
      this.drops.group,
      this.slice.group,
      this.chamber,
      this.frustum,
      this.guides.group,
      this.guides.focus,
      this.guides.beams,
      this.props.marks,
    );
    this.camera.position.set(2.6, 2.2, 5.2);
    this.orbit.target.set(0, 1.3, 0);
    this.orbit.update();
    this.wake();
  }

  dispose() {
    this.alive = false;
    this.handles.dispose();
    this.orbit.dispose();
    this.props.dispose();
    this.guides.dispose();
    this.slice.dispose();
    this.sparks.dispose();
    this.drops.dispose();
    this.chamber.dispose();
    this.frustum.dispose();
    this.drawing.dispose();
    this.renderer.dispose();
  }

  /** Draws what is set now at full resolution, under the kept picture that lies over the view. Anything else that is
   * asked for gives it up. */
  drawAside(done: (canvas: HTMLCanvasElement) => void) {
    this.refining = null;
    this.fine = false;
    this.aside = done;
    this.wake();
  }

  /** @return whether something was being drawn aside */
  giveUpAside(): boolean {
    const was = !!this.aside;
    this.aside = null;
    return was;
  }

  /** The canvas, pixels. */
  get pixels() {
    return this.full as [number, number];
  }

  /** How much of the full resolution the smoke on the screen has. */
  get resolution() {
    return this.fine ? 1 : this.drawing.levels.smoke;
  }

  /** Shows or hides lines and marks, which no picture has. */
  toggleLines() {
    this.lines = !this.lines;
    for (const thing of [
      this.chamber,
      this.guides.group,
      this.guides.focus,
      this.guides.beams,
      this.props.marks,
    ])
      thing.visible = this.lines;
    this.touch();
  }

  /** A plate behind everything, which takes a share of the view's height. */
  setPlate(picture: ImageBitmap | null, share: number) {
    this.drawing.setPlate(picture, share);
    this.touch();
  }

  /** Something has changed: asks for a new picture, and lets go of all that were kept. */
  touch() {
    this.props.stale();
    this.anew();
  }

  private anew() {
    this.book.clear();
    this.changed();
    this.next();
  }

  /** Asks for a new picture, of another frame. */
  next() {
    this.dirty = true;
    this.wake();
  }

  resize(width: number, height: number) {
    const ratio = Math.min(window.devicePixelRatio, 2);
    this.full = [Math.round(width * ratio), Math.round(height * ratio)];
    this.camera.aspect = width / Math.max(height, 1);
    this.camera.updateProjectionMatrix();
    this.touch();
  }

  /** Lamps, background and tone of the shot. */
  setRig(rig: Rig) {
    this.drawing.setRig(rig);
    this.frustum.lay(frustumEdges(rig));
    this.anew();
  }

  setVolume(volume: Volume | null) {
    this.volume = volume;
    this.marcher.setVolume(volume);
    this.fire = volume?.lamps ?? [];
    this.light();
    this.next();
  }

  /** The liquid's surface as a dial under the hand would make it; nothing shows its own again. */
  setWater(shape: THREE.BufferGeometry | null) {
    if (this.props.lend(shape)) this.touch();
  }

  setFog(fog: Fog | null) {
    this.marcher.setFog(fog);
    this.touch();
  }

  /** What is not shown gives no light either. */
  setShown(smoke: boolean, heat: boolean, fire: boolean) {
    this.marcher.setShown(smoke, heat, fire);
    this.fireShown = fire;
    this.light();
    this.touch();
  }

  private light() {
    this.props.light.setFire(this.fireShown ? this.fire : []);
    if (this.props.sheer) this.props.stale();
  }

  /** The edges of all chambers. */
  setChambers(boxes: ChamberBox[], voxel: number) {
    this.chamber.lay(boxEdges(boxes, voxel));
    this.touch();
  }

  /** Looks at all chambers. */
  fit() {
    this.lookAt(null, []);
  }

  /** Looks at what is picked, or at all chambers.
   * @param way from it to the eye; nothing keeps the side */
  lookAt(way: number[] | null, ids: string[]) {
    const box = new THREE.Box3();
    for (const id of ids) {
      const object = this.props.seen(id);
      if (object) box.expandByObject(object);
    }
    const seen = !box.isEmpty();
    this.eye.lookAt(seen ? box : box.setFromObject(this.chamber), way, seen ? 1.4 : 0.92);
    this.touch();
  }

  flatten(flat: boolean) {
    this.eye.flatten(flat);
    this.touch();
  }

  lookThrough(rig: Rig) {
    this.eye.lookThrough(rig);
    this.touch();
  }

  /** What stands under a place of the canvas (-1 to 1 each way). */
  pick(x: number, y: number): Picked | null {
    const ray = new THREE.Raycaster();
    ray.setFromCamera(new THREE.Vector2(x, y), this.camera);
    const seen = [...this.props.marks.children, ...this.props.group.children].filter((each) => each.visible);
    const hit = ray.intersectObjects(seen, false)[0];
    return hit
      ? {
          id: hit.object.name,
          point: hit.point,
          object: hit.object as THREE.Mesh,
          face: hit.faceIndex ?? undefined,
        }
      : null;
  }

  /** The place of a surface, or of the level ground, under a place of the canvas; nothing where the sky is. */
  spot(x: number, y: number): number[] | null {
    const point =
      this.pick(x, y)?.point ??
      this.ray(x, y).intersectPlane(new THREE.Plane(new THREE.Vector3(0, 1, 0)), new THREE.Vector3());
    return point && point.length() < 1000 ? point.toArray() : null;
  }

  ray(x: number, y: number): THREE.Ray {
    const caster = new THREE.Raycaster();
    caster.setFromCamera(new THREE.Vector2(x, y), this.camera);
    return caster.ray;
  }

  private tick = () => {
    this.asked = false;
    if (!this.alive) return;
    this.step();
    if (this.busy) this.wake();
  };

  /** The screen's turns are asked for only while there is something to do: each costs the whole page a round. */
  private wake() {
    if (this.asked || !this.alive) return;
    this.asked = true;
    requestAnimationFrame(this.tick);
  }

  /** Whether there is anything to do at the screen's next turn. */
  private get busy(): boolean {
    if (this.pace.waits) return true;
    if (this.resting && !this.dirty) return false;
    if (this.covered) return !!this.aside;
    return this.dirty || (!this.fine && !this.hurried);
  }

  /** Does what is to be done next, if what was handed over is drawn. */
  private step() {
    if (!this.alive || this.pace.busy()) return;
    if (this.resting && !this.dirty) return;
    if (this.covered) return this.aside ? this.refine() : undefined;
    if (this.dirty) return this.now();
    const rest = performance.now() - this.quiet;
    if (!this.fine && !this.hurried && rest > (this.drawing.levels.quick ? QUIET : SLOW_QUIET)) this.refine();
  }

  /** Draws what has changed without waiting for the screen's next turn, which comes late where much else goes on. */
  now() {
    if (!this.dirty || this.covered || this.pace.busy()) return;
    const from = performance.now();
    this.dirty = this.fine = false;
    this.draw(true);
    if (this.plays) this.pace.wait(from);
    else this.pace.await(from);
    this.quiet = performance.now();
    this.drawn();
    this.wake();
  }

  /** Draws what is set at once, as fine as things are while they move, whatever lies over the view.
   * @return the canvas that it is on */
  sketch(): HTMLCanvasElement {
    const from = performance.now();
    this.dirty = this.fine = false;
    this.draw(false);
    this.pace.wait(from);
    this.wake();
    return this.renderer.domElement;
  }

  /** Draws what is set at once and whole, without lines. @return the canvas that it is on */
  snap(): HTMLCanvasElement {
    this.dirty = false;
    this.refining = null;
    for (const parts = this.drawing.refine(this.full); !parts.next().done;);
    return this.renderer.domElement;
  }

  /** Looks from another side at the same place, by so much (radians). */
  turn(aside: number, up: number) {
    const around = new THREE.Spherical().setFromVector3(this.camera.position.clone().sub(this.orbit.target));
    around.theta -= aside;
    around.phi = Math.min(Math.max(around.phi - up, 0.05), Math.PI - 0.05);
    this.camera.position.setFromSpherical(around).add(this.orbit.target);
    this.camera.lookAt(this.orbit.target);
    this.camera.updateMatrixWorld();
  }

  /** Comes nearer to the place that it looks at, or goes farther off, by a factor. */
  near(times: number) {
    this.camera.position.sub(this.orbit.target).multiplyScalar(times).add(this.orbit.target);
    this.camera.updateMatrixWorld();
  }

  /** Goes on with the picture at full resolution once nothing moves any more, a part at a time: the next one when
   * the last is done, so that there is never much to wait for. */
  private refine() {
    this.refining ??= this.drawing.refine(this.full);
    if (!this.refining.next().done) {
      this.pace.await();
      // The screen's next turn may come late where the processor draws.
      return this.soon();
    }
    this.refining = null;
    this.fine = true;
    const told = this.aside;
    this.drawOverlay();
    if (!told) return this.drawn();
    this.aside = null;
    told(this.renderer.domElement);
  }

  private soon() {
    if (this.asking) return;
    this.asking = true;
    setTimeout(() => {
      this.asking = false;
      if (!this.refining) return;
      this.step();
      if (this.refining && this.pace.waits) this.soon();
    }, SOON);
  }

  private drawOverlay() {
    const { renderer } = this;
    renderer.setRenderTarget(null);
    this.props.follow();
    this.frustum.visible = this.lines && !this.eye.through;
    renderer.render(this.overlay, this.camera);
  }

  private draw(corner: boolean) {
    this.refining = null;
    this.drawing.draw(this.full, corner);
    this.drawOverlay();
  }
}
