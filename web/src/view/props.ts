import * as THREE from "three";
import { api } from "../api/client";
import type { Body, Scene as Rig } from "../api/types";
import { ClearThings } from "./clearThings";
import { Marks } from "./marks";
import { PropLight } from "./propLight";
import { PropPictures } from "./propPictures";
import { type Paint, propMaterial, UNPAINTED, wear } from "./paint";
import { AT, posed, shapeFrames, Shapes } from "./shapes";
import { layStrength, type Strength } from "./strengths";
import { Waters } from "./waters";

/** How props are shown: as the picture has them, in a plain light, seen through, or as their edges. */
export type ShownAs = "picture" | "plain" | "through" | "lines";

/** So long a frame is looked at before its surfaces are asked for, ms. */
const PASSING = 150;

const UNCUT = new THREE.Vector4();
const NOTHING = new THREE.BufferGeometry();

/** The props in the view, whole or in pieces, and the marks of what has no shape. Triangles come
 * from the server. */
export class PropShelf {
  readonly scene = new THREE.Scene();
  readonly group = new THREE.Group();
  readonly marks = new Marks(this.group);
  private shapes = new Shapes();
  /** Told when something has come that is to be drawn. */
  changed: (() => void) | null = null;
  private pictures = new PropPictures(() => {
    this.stale();
    this.changed?.();
  });
  private as: ShownAs = "picture";
  private only: string[] | null = null;
  private bodies: Body[] = [];
  private waters = new Waters();
  private cut = new THREE.Vector4();
  /** The surface of the liquid as a dial under the hand would make it. */
  private followed: THREE.BufferGeometry | null = null;
  /** Tells the frame of the liquid that is there at a frame of the shot. */
  liquid: (frame: number) => string | null = () => null;
  /** Counts who asked for surfaces last. */
  private turn = 0;
  private strengths = new Map<string, Strength>();
  private frame = 1;
  readonly light = new PropLight();
  readonly clearThings = new ClearThings();
  /** Counts what was changed of how they stand and look, and of that what was not clear. */
  edition = 0;
  solid = 0;

  constructor() {
    this.scene.add(this.group);
  }

  setRig(rig: Rig) {
    if (this.light.setRig(rig)) this.stale();
  }

  /** They no longer look as they were drawn. */
  stale() {
    this.edition += 1;
    this.solid += 1;
  }

  /** They no longer stand as they stood, nor does their shadow. */
  private moved() {
    this.stale();
    this.light.shadowStale = true;
  }

  /** @param as how all are shown; @param only those that are shown at all, or nothing for all */
  show(as: ShownAs, only: string[] | null) {
    this.as = as;
    this.only = only;
    this.light.uniforms.shownAs.value = { picture: 0, plain: 1, through: 2, lines: 1 }[as];
    (this.group.children as THREE.Mesh[]).forEach((mesh, n) => {
      (mesh.material as THREE.ShaderMaterial).wireframe = as === "lines";
      if (this.bodies[n]) this.place(mesh, this.bodies[n]);
    });
    this.moved();
  }

  /** Whether one sees through any of them, which then stands in the light of the frame's smoke and fire. */
  get sheer(): boolean {
    return (this.group.children as THREE.Mesh[]).some(
      (mesh) => (mesh.material as THREE.Material).transparent,
    );
  }

  /** What is drawn over all that is seen through it. */
  get clear(): THREE.Object3D[] {
    if (this.as !== "picture") return [];
    return this.group.children.filter((mesh) => mesh.visible && mesh.userData.clear);
  }

  /** Draws clear things alone, or all but those. */
  part(clear: boolean, draw: () => void) {
    const chosen = new Set(this.clear);
    const hidden = this.scene.children
      .flatMap((child) => (child === this.group ? this.group.children : [child]))
      .filter((thing) => thing.visible && chosen.has(thing) !== clear);
    for (const thing of hidden) thing.visible = false;
    draw();
    for (const thing of hidden) thing.visible = true;
  }

  /** Shows these bodies and no others; gives a promise of their shapes being there. */
  async set(bodies: Body[], paints: Map<string, Paint>, selected: string[]): Promise<void> {
    this.bodies = bodies;
    this.moved();
    const children = this.group.children as THREE.Mesh[];
    while (children.length > bodies.length) {
      const mesh = children.at(-1)!;
      this.group.remove(mesh);
      (mesh.material as THREE.Material).dispose();
    }
    while (children.length < bodies.length) this.group.add(this.bare());
    const surfaces = this.ready(this.frame);
    await Promise.all(
      bodies.map(async (body, n) => {
        const mesh = children[n];
        mesh.name = body.prop;
        const material = mesh.material as THREE.ShaderMaterial;
        const paint = paints.get(body.prop) ?? UNPAINTED;
        this.dress(mesh, paint, body);
        mesh.userData.piece = body.piece;
        material.uniforms.picked.value = selected.includes(body.prop) ? 1 : 0;
        material.wireframe = this.as === "lines";
        material.uniforms.dyes.value = body.dyed ? 1 : 0;
        material.uniforms.cut.value = body.outline.shape === "liquid" ? this.cut : UNCUT;
        mesh.userData.url = "";
        if (body.outline.surface || body.outline.shape === "liquid") {
          await surfaces;
          this.place(mesh, body);
        } else if (shapeFrames(body).length) {
          // All it will be, so that every picture has the right one.
          await this.shapes.moving(body);
          this.place(mesh, body);
        } else {
          this.place(mesh, body);
          const url = api.shapeUrl(body.outline);
          mesh.userData.url = url;
          const geometry = await this.shapes.of(url);
          if (paint.picture && !geometry.getAttribute("uv"))
            geometry.setAttribute("uv", await this.pictures.places(body.outline, geometry));
          if (mesh.userData.url === url) mesh.userData.base = geometry;
          this.lay(mesh, body);
        }
        this.moved();
      }),
    );
  }

  /** Gives what is there the paints of another frame, where any of them is another. */
  repaint(paints: Map<string, Paint>) {
    (this.group.children as THREE.Mesh[]).forEach((mesh, n) => {
      const body = this.bodies[n];
      const paint = body && paints.get(body.prop);
      if (!paint || JSON.stringify(paint) === mesh.userData.painted) return;
      const { lets } = mesh.userData;
      this.dress(mesh, paint, body);
      if (lets === mesh.userData.lets) this.stale();
      else this.moved();
    });
  }

  /** What stands for a body, without its shape and its paint. */
  private bare(): THREE.Mesh {
    const paint = propMaterial({ ...this.light.uniforms, ...this.clearThings.uniforms });
    const mesh = new THREE.Mesh(new THREE.BufferGeometry(), paint);
    mesh.onBeforeRender = (...[, , , , as]) => this.clearThings.worn(mesh, as);
    return mesh;
  }

  private dress(mesh: THREE.Mesh, paint: Paint, body: Body) {
    const material = mesh.material as THREE.ShaderMaterial;
    wear(material, paint, body);
    const sheer = this.pictures.lookThrough(material, paint);
    mesh.userData.painted = JSON.stringify(paint);
    mesh.userData.clear = paint.clear > 0 && !sheer;
    mesh.userData.lets = sheer || !paint.casts || paint.clear > 0.5;
  }

  /** Lays over the props how strong something is at their corners; nothing over those that are not named. */
  setStrengths(strengths: Map<string, Strength>) {
    if (!strengths.size && !this.strengths.size) return;
    this.strengths = strengths;
    this.stale();
    this.bodies.forEach((body, n) => this.lay(this.group.children[n] as THREE.Mesh, body));
  }

  /** Cuts liquids open across an axis (0 x, 1 y, 2 z); with nothing they are whole. */
  setCut(axis: number | null, at = 0) {
    this.cut.set(0, 0, 0, at);
    if (axis !== null) this.cut.setComponent(axis, 1);
  }

  /** Lets those props light up that something comes from at this frame. @return whether any changed */
  setFeeding(props: Set<string>): boolean {
    let changed = false;
    this.bodies.forEach((body, n) => {
      const { feeds } = ((this.group.children[n] as THREE.Mesh).material as THREE.ShaderMaterial).uniforms;
      const now = props.has(body.prop) ? 1 : 0;
      changed ||= feeds.value !== now;
      feeds.value = now;
    });
    if (changed) this.stale();
    return changed;
  }

  private lay(mesh: THREE.Mesh, body: Body) {
    const { base } = mesh.userData;
    if (base) mesh.geometry = layStrength(mesh, base, this.strengths.get(body.prop));
  }

  /** Fetches the surfaces of liquids and of sculpts at a frame; these are made when they are looked at. */
  async ready(frame: number): Promise<void> {
    await Promise.all(
      this.bodies
        .filter((body) => body.outline.shape === "liquid")
        .map((body) => {
          const key = this.water(body, frame);
          return key && this.waters.fetch(key, Number(body.outline.least_part ?? 0));
        }),
    );
    const asked = this.bodies.filter((body) => body.outline.surface);
    const turn = ++this.turn;
    // Frames that the hand only passes over are not worth the work.
    if (asked.length) await new Promise((done) => setTimeout(done, PASSING));
    for (const body of asked) {
      if (turn !== this.turn) return;
      const at = body.poses?.[frame - (body.first ?? 0)]?.[AT];
      if (at === undefined) continue;
      await this.shapes.surface(body, at);
    }
  }

  /** Shows the liquid with another surface for a while; with nothing, its own again. @return whether that is another one */
  lend(shape: THREE.BufferGeometry | null): boolean {
    const was = this.followed;
    if (!was && !shape) return false;
    this.followed = shape;
    this.stale();
    this.go(this.frame);
    was?.dispose();
    return true;
  }

  /** Whether any of them moves or changes from frame to frame. */
  get moves(): boolean {
    return this.bodies.some((body) => body.poses);
  }

  /** Moves everything to where it stands at a frame. @return whether anything moves */
  go(frame: number): boolean {
    this.frame = frame;
    if (!this.moves) return false;
    const meshes = this.group.children as THREE.Mesh[];
    const moved = meshes.filter((mesh, n) => this.bodies[n] && this.place(mesh, this.bodies[n]));
    const clear = new Set<THREE.Object3D>(this.clear);
    // What throws no shadow and is clear leaves all that stands behind it as it was drawn.
    if (moved.every((mesh) => clear.has(mesh) && mesh.userData.lets)) this.edition += 1;
    else this.moved();
    return true;
  }

  object(id: string): THREE.Object3D | undefined {
    return this.group.getObjectByName(id) ?? this.marks.group.getObjectByName(id);
  }

  /** What is seen of a thing: its mark, where it has one. */
  seen(id: string): THREE.Object3D | undefined {
    return this.marks.group.getObjectByName(id) ?? this.group.getObjectByName(id);
  }

  dispose() {
    this.light.dispose();
    this.clearThings.dispose();
    this.pictures.dispose();
    this.waters.dispose();
    this.shapes.dispose();
  }

  /** The frame of a liquid that one shows: of a kept run, or of the shot's own. */
  private water(body: Body, frame: number): string | null {
    const at = frame - (body.first ?? 0);
    const key = body.waters ? (body.waters[at] ?? null) : this.liquid(frame);
    return key && body.altered?.[at] ? `${key}/${body.altered[at]}` : key;
  }

  /** @return whether it is anywhere else, or anything else, than before */
  private place(mesh: THREE.Mesh, body: Body): boolean {
    const pose = body.poses ? body.poses[this.frame - (body.first ?? 0)] : body.pose;
    mesh.visible = !!pose && (!this.only || this.only.includes(body.prop));
    const { stood, base } = mesh.userData;
    mesh.userData.stood = mesh.visible ? pose!.join() : "";
    if (!pose) return stood !== "";
    const shape = this.shapeAt(body, pose);
    if (shape) {
      mesh.userData.base = shape;
      if (body.outline.shape === "liquid")
        (mesh.material as THREE.ShaderMaterial).uniforms.dyes.value = shape.hasAttribute("dye") ? 1 : 0;
      this.lay(mesh, body);
    }
    posed(mesh, pose);
    return stood !== mesh.userData.stood || base !== mesh.userData.base;
  }

  /** What one that changes by itself is at this frame, if that is there. */
  private shapeAt(body: Body, pose: number[]): THREE.BufferGeometry | undefined {
    if (body.outline.shape === "liquid") {
      if (this.followed && !body.waters) return this.followed;
      const key = this.water(body, this.frame);
      // Before it was run there is nothing of it.
      return key ? this.waters.get(key, Number(body.outline.least_part ?? 0)) : NOTHING;
    }
    return pose.length > AT ? this.shapes.at(body, pose[AT]) : undefined;
  }
}
