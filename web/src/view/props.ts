import * as THREE from "three";
import { api } from "../api/client";
import type { Scene as Rig } from "../api/types";
import { propFragment, propVertex } from "./shaders";

/** A prop as the view needs it. */
export interface PropView {
  id: string;
  outline: Record<string, unknown>;
  position: number[];
  turn: number[];
  scale: number[];
  colour: number[];
  shown: boolean;
}

export interface LampView {
  id: string;
  position: number[];
  colour: number[];
}

/** The props and lamps in the view. Their triangles come from the server. */
export class PropShelf {
  readonly scene = new THREE.Scene();
  readonly group = new THREE.Group();
  /** Lamps, as small balls over everything. */
  readonly marks = new THREE.Group();
  private shapes = new Map<string, Promise<THREE.BufferGeometry>>();
  private wanted = new Map<string, string>();
  private light = {
    sky: { value: new THREE.Vector3() },
    lampCount: { value: 0 },
    lampPlace: { value: Array.from({ length: 8 }, () => new THREE.Vector4()) },
    lampColour: { value: Array.from({ length: 8 }, () => new THREE.Vector3()) },
  };

  constructor() {
    this.scene.add(this.group);
  }

  setRig(rig: Rig) {
    this.light.sky.value.fromArray(rig.rig.sky);
    const lamps = rig.rig.lamps.slice(0, 8);
    this.light.lampCount.value = lamps.length;
    lamps.forEach((lamp, i) => {
      this.light.lampPlace.value[i].set(lamp[1], lamp[2], lamp[3], lamp[0]);
      this.light.lampColour.value[i].set(lamp[4], lamp[5], lamp[6]);
    });
  }

  /** Shows these props and no others; gives a promise of their shapes being there. */
  async set(props: PropView[], selected: string | null): Promise<void> {
    const ids = new Set(props.map((prop) => prop.id));
    for (const mesh of [...this.group.children] as THREE.Mesh[])
      if (!ids.has(mesh.name)) {
        this.group.remove(mesh);
        (mesh.material as THREE.Material).dispose();
        this.wanted.delete(mesh.name);
      }
    await Promise.all(props.map((prop) => this.place(prop, prop.id === selected)));
  }

  setLamps(lamps: LampView[], selected: string | null) {
    this.marks.clear();
    for (const lamp of lamps) {
      const ball = new THREE.Mesh(
        new THREE.SphereGeometry(lamp.id === selected ? 0.07 : 0.05, 16, 12),
        new THREE.MeshBasicMaterial({ color: new THREE.Color(...(lamp.colour as [number, number, number])) }),
      );
      ball.name = lamp.id;
      ball.position.fromArray(lamp.position);
      this.marks.add(ball);
    }
  }

  object(id: string): THREE.Object3D | undefined {
    return this.group.getObjectByName(id) ?? this.marks.getObjectByName(id);
  }

  dispose() {
    for (const shape of this.shapes.values()) void shape.then((geometry) => geometry.dispose());
  }

  private async place(prop: PropView, selected: boolean) {
    const url = api.shapeUrl(prop.outline);
    this.wanted.set(prop.id, url);
    let mesh = this.group.getObjectByName(prop.id) as THREE.Mesh | undefined;
    if (!mesh) {
      mesh = new THREE.Mesh(new THREE.BufferGeometry(), this.material());
      mesh.name = prop.id;
      this.group.add(mesh);
    }
    const material = mesh.material as THREE.ShaderMaterial;
    material.uniforms.tint.value.fromArray(prop.colour);
    material.uniforms.picked.value = selected ? 1 : 0;
    const [x, y, z] = prop.turn.map((degrees) => (degrees * Math.PI) / 180);
    // About x, then y, then z, as the server turns them.
    mesh.rotation.set(x, y, z, "ZYX");
    mesh.position.fromArray(prop.position);
    mesh.scale.fromArray(prop.scale);
    mesh.visible = prop.shown;
    const geometry = await this.shape(url);
    if (this.wanted.get(prop.id) === url) mesh.geometry = geometry;
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
