import * as THREE from "three";
import { api } from "../api/client";
import type { Body, Scene as Rig } from "../api/types";
import { propFragment, propVertex } from "./shaders";

/** A small ball over everything that stands for a lamp, a force or an emitter. */
export interface MarkView {
  id: string;
  position: number[];
  colour: THREE.ColorRepresentation;
}

/** The props in the view, whole or in pieces, and the marks of what has no shape. Triangles come
 * from the server. */
export class PropShelf {
  readonly scene = new THREE.Scene();
  readonly group = new THREE.Group();
  readonly marks = new THREE.Group();
  private shapes = new Map<string, Promise<THREE.BufferGeometry>>();
  private bodies: Body[] = [];
  private frame = 1;
  private light = {
    sky: { value: new Array(40).fill(0) },
    horizon: { value: new Array(96).fill(0) },
    lampCount: { value: 0 },
    lampPlace: { value: Array.from({ length: 8 }, () => new THREE.Vector4()) },
    lampColour: { value: Array.from({ length: 8 }, () => new THREE.Vector3()) },
  };

  constructor() {
    this.scene.add(this.group);
  }

  setRig(rig: Rig) {
    this.light.sky.value = rig.sky;
    this.light.horizon.value = rig.horizon;
    const lamps = rig.rig.lamps.slice(0, 8);
    this.light.lampCount.value = lamps.length;
    lamps.forEach((lamp, i) => {
      this.light.lampPlace.value[i].set(lamp[1], lamp[2], lamp[3], lamp[0]);
      this.light.lampColour.value[i].set(lamp[4], lamp[5], lamp[6]);
    });
  }

  /** Shows these bodies and no others; gives a promise of their shapes being there. */
  async set(bodies: Body[], colours: Map<string, number[]>, selected: string | null): Promise<void> {
    this.bodies = bodies;
    const children = this.group.children as THREE.Mesh[];
    while (children.length > bodies.length) {
      const mesh = children.at(-1)!;
      this.group.remove(mesh);
      (mesh.material as THREE.Material).dispose();
    }
    while (children.length < bodies.length)
      this.group.add(new THREE.Mesh(new THREE.BufferGeometry(), this.material()));
    await Promise.all(
      bodies.map(async (body, n) => {
        const mesh = children[n];
        mesh.name = body.prop;
        const material = mesh.material as THREE.ShaderMaterial;
        material.uniforms.tint.value.fromArray(colours.get(body.prop) ?? [0.3, 0.3, 0.3]);
        material.uniforms.picked.value = body.prop === selected ? 1 : 0;
        this.place(mesh, body);
        const url = api.shapeUrl(body.outline);
        mesh.userData.url = url;
        const geometry = await this.shape(url);
        if (mesh.userData.url === url) mesh.geometry = geometry;
      }),
    );
  }

  /** Moves everything to where it stands at a frame. @return whether anything moved */
  go(frame: number): boolean {
    this.frame = frame;
    const moving = this.bodies.some((body) => body.poses);
    if (moving) this.bodies.forEach((body, n) => this.place(this.group.children[n] as THREE.Mesh, body));
    return moving;
  }

  setMarks(marks: MarkView[], selected: string | null) {
    this.marks.clear();
    for (const mark of marks) {
      const ball = new THREE.Mesh(
        new THREE.SphereGeometry(mark.id === selected ? 0.07 : 0.05, 16, 12),
        new THREE.MeshBasicMaterial({ color: new THREE.Color(mark.colour) }),
      );
      ball.name = mark.id;
      ball.position.fromArray(mark.position);
      this.marks.add(ball);
    }
  }

  object(id: string): THREE.Object3D | undefined {
    return this.group.getObjectByName(id) ?? this.marks.getObjectByName(id);
  }

  dispose() {
    for (const shape of this.shapes.values()) void shape.then((geometry) => geometry.dispose());
  }

  private place(mesh: THREE.Mesh, body: Body) {
    const pose = body.poses ? body.poses[this.frame - (body.first ?? 0)] : body.pose;
    mesh.visible = !!pose;
    if (!pose) return;
    mesh.position.set(pose[0], pose[1], pose[2]);
    const [x, y, z] = pose.slice(3, 6).map((degrees) => (degrees * Math.PI) / 180);
    // About x, then y, then z, as the server turns them.
    mesh.rotation.set(x, y, z, "ZYX");
    mesh.scale.set(pose[6], pose[7], pose[8]);
  }

  private material() {
    return new THREE.ShaderMaterial({
      glslVersion: THREE.GLSL3,
      vertexShader: propVertex,
      fragmentShader: propFragment,
      side: THREE.DoubleSide,
      uniforms: { ...this.light, tint: { value: new THREE.Vector3() }, picked: { value: 0 } },
    });
  }

  private shape(url: string): Promise<THREE.BufferGeometry> {
    let shape = this.shapes.get(url);
    if (!shape) {
      shape = fetch(url)
        .then((response) => (response.ok ? response.arrayBuffer() : new ArrayBuffer(0)))
        .then((buffer) => {
          const corners = new THREE.InterleavedBuffer(new Float32Array(buffer), 6);
          const geometry = new THREE.BufferGeometry();
          geometry.setAttribute("position", new THREE.InterleavedBufferAttribute(corners, 3, 0));
          geometry.setAttribute("normal", new THREE.InterleavedBufferAttribute(corners, 3, 3));
          return geometry;
        });
      this.shapes.set(url, shape);
    }
    return shape;
  }
}
