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
import { Aim } from "./aim";
import { Drawing } from "./drawing";
import { Drops } from "./drops";
import { Sparks } from "./sparks";
import { Turns } from "./turns";
import type { Fog } from "./decode";
import type { Volume } from "./volumes";

/** The three-dimensional view: props, the smoke, the chamber's edges, the camera one looks from. */
export class Stage extends Turns {
  readonly camera = new THREE.PerspectiveCamera(38, 1, 0.02, 4000);
  readonly orbit: OrbitControls;
  readonly eye: Eye;
  readonly handles: Handles;
  readonly props: PropShelf;
  readonly aim: Aim;
  readonly marcher: Marcher;
  readonly guides = new Guides();
  readonly slice = new Slice();
  readonly sparks = new Sparks();
  readonly drops = new Drops();
  readonly book = new FlipBook();
  /** Whether the processor draws, which others need too. */
  readonly software: boolean;
  /** Called when something but the frame has changed, and kept pictures are no longer right. */
  changed: () => void = () => {};

  private renderer: THREE.WebGLRenderer;
  private overlay = new THREE.Scene();
  private chamber = new Outline(0x8a928a, 0.55);
  private frustum = new Outline(0xbdd45e, 0.7);
  private drawing: Drawing;
  /** What is seen of the frame, for what asks where it is dense. */
  volume: Volume | null = null;
  /** The canvas, in pixels. */
  private full = [4, 4];
  private fire: number[][] = [];
  private fireShown = true;
  private lines = true;

  constructor(canvas: HTMLCanvasElement) {
    super();
    this.renderer = new THREE.WebGLRenderer({
      canvas,
      antialias: false,
      powerPreference: "high-performance",
    });
    this.renderer.outputColorSpace = THREE.LinearSRGBColorSpace;
    this.renderer.autoClear = false;
    this.props = new PropShelf();
    this.aim = new Aim(this.camera, this.props);
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
      this.props.marks.group,
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

  /** The canvas, pixels. */
  get pixels() {
    return this.full as [number, number];
  }

  /** Shows or hides lines and marks, which no picture has. */
  toggleLines() {
    this.lines = !this.lines;
    for (const thing of [
      this.chamber,
      this.guides.group,
      this.guides.focus,
      this.guides.beams,
      this.props.marks.group,
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
    this.next(true);
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
    this.lightAs(rig);
    this.frustum.lay(frustumEdges(rig));
    this.anew();
  }

  /** The same of another frame: what is kept of others stays as it is. */
  lightAs(rig: Rig) {
    this.drawing.setRig(rig);
    this.next();
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

  protected get canvas() {
    return this.renderer.domElement;
  }

  protected get levels() {
    return this.drawing.levels;
  }

  protected sketched(corner: boolean) {
    this.drawing.draw(this.full, corner);
  }

  protected parts() {
    return this.drawing.refine(this.full);
  }

  protected drawOverlay() {
    const { renderer } = this;
    renderer.setRenderTarget(null);
    this.props.marks.follow();
    this.frustum.visible = this.lines && !this.eye.through;
    renderer.render(this.overlay, this.camera);
  }
}
