import * as THREE from "three";
import { TransformControls } from "three/examples/jsm/controls/TransformControls.js";

export type Grip = "move" | "turn" | "size";

const MODES = { move: "translate", turn: "rotate", size: "scale" } as const;
/** What the hand keeps to with Shift: degrees, parts. */
const STEPS = { turn: 15, size: 0.1 };

/** Of the three axes, and of the one under the hand. */
const TINTS = ["#d9824f", "#d9cfa8", "#7fb0b8", "#bdd45e"] as const;

/** Where a thing stands, as the dials of a prop have it. */
export interface Place {
  position: number[];
  turn: number[];
  scale: number[];
}

/** No factor of a size is larger: from the very middle a hand would ask for one without end. */
const MOST_SIZE = 100;

const rounded = (values: number[], digits: number) => values.map((value) => Number(value.toFixed(digits)));

/** The place of a thing, with degrees about x, then y, then z. */
export function placeOf(object: THREE.Object3D): Place {
  const { x, y, z } = object.rotation.reorder("ZYX");
  return {
    position: rounded(object.position.toArray(), 4),
    turn: rounded(
      [x, y, z].map((angle) => (angle * 180) / Math.PI),
      3,
    ),
    scale: rounded(
      object.scale.toArray().map((part) => Math.min(Math.max(part || 1, 1e-4), MOST_SIZE)),
      4,
    ),
  };
}

/** Arrows, rings and knobs on what is picked, to move, turn and size it by hand. */
export class Handles {
  readonly helper: THREE.Object3D;
  /** Told when something is taken, while it is dragged, and when it is let go. */
  taken: () => void = () => {};
  dragged: (place: Place, grip: Grip) => void = () => {};
  done: (place: Place, grip: Grip) => void = () => {};
  changed: () => void = () => {};
  /** Tells the grid that the hand keeps to, with Shift or without, metres. */
  grid: (shift: boolean) => number | null = () => null;
  /** Where it stood when the hand took it. */
  from: Place | null = null;
  private controls: TransformControls;
  private grip: Grip = "move";
  private moved = false;

  /** @param hold keeps the view still while something is dragged */
  constructor(camera: THREE.Camera, canvas: HTMLElement, hold: (held: boolean) => void) {
    this.controls = new TransformControls(camera, canvas);
    this.controls.size = 0.75;
    this.controls.setColors(...TINTS);
    this.helper = this.controls.getHelper();
    this.helper.visible = false;
    this.leaveMiddle();
    this.controls.addEventListener("change", () => this.changed());
    this.controls.addEventListener("objectChange", () => {
      this.moved = true;
      this.dragged(placeOf(this.controls.object!), this.grip);
    });
    this.controls.addEventListener("dragging-changed", ({ value }) => {
      hold(!!value);
      if (value) {
        this.moved = false;
        this.from = placeOf(this.controls.object!);
        this.taken();
      }
      if (!value && this.moved) this.done(placeOf(this.controls.object!), this.grip);
    });
    const step = (event: KeyboardEvent) => this.snap(event.shiftKey);
    window.addEventListener("keydown", step);
    window.addEventListener("keyup", step);
    this.forget = () => {
      window.removeEventListener("keydown", step);
      window.removeEventListener("keyup", step);
    };
  }

  private forget: () => void;

  /** Moving has one arrow for each axis and nothing in the middle: there the hand has the thing itself, which it drags
   * along the floor. */
  private leaveMiddle() {
    const parts = this.helper.children.find((part) => "picker" in part) as unknown as
      Record<"gizmo" | "picker", Record<string, THREE.Object3D>> | undefined;
    for (const group of [parts?.gizmo.translate, parts?.picker.translate])
      for (const part of [...(group?.children ?? [])] as THREE.Mesh[]) {
        const axis = ["X", "Y", "Z"].indexOf(part.name);
        part.geometry.computeBoundingBox();
        const back = axis >= 0 && part.geometry.boundingBox!.max.getComponent(axis) < 0.05;
        if (axis < 0 || back) part.removeFromParent();
      }
  }

  /** Whether the pointer is on one of them. */
  get under(): boolean {
    return !!this.controls.object && !!this.controls.axis;
  }

  get busy(): boolean {
    return this.controls.dragging;
  }

  use(grip: Grip) {
    this.snap(false);
    this.grip = grip;
    this.controls.setMode(MODES[grip]);
    this.controls.setSpace(grip === "move" ? "world" : "local");
  }

  /** @param object what they are put on; nothing takes them away */
  hold(object: THREE.Object3D | undefined) {
    if (object === this.controls.object) return;
    if (object) this.controls.attach(object);
    else this.controls.detach();
    this.helper.visible = !!object;
    this.changed();
  }

  dispose() {
    this.forget();
    this.controls.detach();
    this.controls.dispose();
  }

  private snap(on: boolean) {
    this.controls.setTranslationSnap(this.grid(on));
    this.controls.setRotationSnap(on ? THREE.MathUtils.degToRad(STEPS.turn) : null);
    this.controls.setScaleSnap(on ? STEPS.size : null);
  }
}
