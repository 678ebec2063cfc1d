// Builds glTF files with @gltf-transform/core and writes beside each where three.js's own loader puts every vertex at
// some moments: what our reader is held against.
//   node web/checks/gltf.mjs FOLDER
import { writeFileSync } from "node:fs";
import { join } from "node:path";
import { Document, NodeIO } from "@gltf-transform/core";
import * as THREE from "three";
import { GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";

const RATE = 24;
const FRAMES = [0, 1, 3, 7, 12, 18, 24, 31, 40, 47];
const folder = process.argv[2];

function begin(name) {
  const document = new Document();
  const buffer = document.createBuffer();
  const scene = document.createScene(name);
  document.getRoot().setDefaultScene(scene);
  const accessor = (type, array) => document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
  return { document, scene, accessor };
}

/** A box of many small faces, so that every part of it moves its own way. */
function box(part, { size = [1, 1, 1], cells = 3, narrow = false } = {}) {
  const shape = new THREE.BoxGeometry(...size, cells, cells, cells);
  const index = shape.index.array;
  const primitive = part.document
    .createPrimitive()
    .setAttribute("POSITION", part.accessor("VEC3", new Float32Array(shape.attributes.position.array)))
    .setIndices(part.accessor("SCALAR", narrow ? new Uint8Array(index) : new Uint16Array(index)));
  return { primitive, shape };
}

function animate(part, node, path, ease, times, values, name = "moves") {
  const types = { translation: "VEC3", rotation: "VEC4", scale: "VEC3", weights: "SCALAR" };
  const sampler = part.document
    .createAnimationSampler()
    .setInterpolation(ease)
    .setInput(part.accessor("SCALAR", new Float32Array(times)))
    .setOutput(part.accessor(types[path], new Float32Array(values)));
  const channel = part.document
    .createAnimationChannel()
    .setTargetNode(node)
    .setTargetPath(path)
    .setSampler(sampler);
  const root = part.document.getRoot();
  const animation =
    root.listAnimations().find((one) => one.getName() === name) ?? part.document.createAnimation(name);
  animation.addSampler(sampler).addChannel(channel);
}

const turn = (x, y, z) => new THREE.Quaternion().setFromEuler(new THREE.Euler(x, y, z)).toArray();

const files = {
  /** Nodes that hang on nodes, with all three ways to go on, one of them mirrored. */
  nested() {
    const part = begin("nested");
    const mesh = part.document.createMesh("block").addPrimitive(box(part).primitive);
    const inner = part.document
      .createNode("inner")
      .setMesh(mesh)
      .setTranslation([0, 1.5, 0])
      .setScale([-1, 0.5, 0.7]);
    const middle = part.document
      .createNode("middle")
      .addChild(inner)
      .setRotation(turn(0.3, 0.2, 0.1));
    const outer = part.document.createNode("outer").setMesh(mesh).addChild(middle);
    part.scene.addChild(outer);
    animate(part, outer, "translation", "LINEAR", [0, 0.7, 2], [0, 0, 0, 1, 2, 0, -1, 0, 3]);
    animate(
      part,
      outer,
      "rotation",
      "LINEAR",
      [0, 1, 2],
      [...turn(0, 0, 0), ...turn(0, 2.8, 0.4), ...turn(1.2, -2.9, 0)],
    );
    animate(part, middle, "scale", "STEP", [0, 0.5, 1.25], [1, 1, 1, 2, 1, 0.5, 0.4, 0.4, 1.6]);
    animate(
      part,
      inner,
      "translation",
      "CUBICSPLINE",
      [0.1, 1, 1.9],
      [0, 0, 0, 0, 1, 0, 1, 0, 2, 0.5, -1, 0, 2, 2, 1, 0, 0, 0, -1, 0, 3, 0, 1.5, 0, 1, 1, 1],
    );
    return part.document;
  },
  /** Other shapes, one of them sparse, whose weights are animated on two meshes alike. */
  shapes() {
    const part = begin("shapes");
    const { primitive, shape } = box(part, { narrow: true });
    const points = shape.attributes.position;
    const [wide, bent] = [0, 1].map((n) => {
      const delta = new Float32Array(3 * points.count);
      for (let i = 0; i < points.count; i++) {
        if (n === 0) delta[3 * i] = 0.5 * points.getX(i);
        else if (points.getY(i) > 0.4) delta.set([0.2, 0.6 * points.getX(i), -0.3], 3 * i);
      }
      return part.accessor("VEC3", delta);
    });
    bent.setSparse(true);
    [wide, bent].forEach((delta) =>
      primitive.addTarget(part.document.createPrimitiveTarget().setAttribute("POSITION", delta)),
    );
    const mesh = part.document.createMesh("dough").addPrimitive(primitive).setWeights([0.25, 0]);
    const moving = part.document.createNode("moving").setMesh(mesh);
    part.scene
      .addChild(moving)
      .addChild(part.document.createNode("resting").setMesh(mesh).setTranslation([3, 0, 0]));
    animate(part, moving, "weights", "LINEAR", [0, 0.5, 1.5, 2], [0, 0, 1, 0.2, 0.3, 1, 0, 0.5]);
    return part.document;
  },
  /** A skin of three joints with short and byte numbers, on a mesh whose own node moves as well. */
  skins() {
    const part = begin("skins");
    [Uint8Array, Uint16Array].forEach((Numbers, nth) => {
      const { primitive, shape } = box(part, { size: [0.6, 3, 0.6], cells: 6 });
      const points = shape.attributes.position;
      const joints = new Numbers(4 * points.count);
      const weights = new Float32Array(4 * points.count);
      for (let i = 0; i < points.count; i++) {
        const along = THREE.MathUtils.clamp((points.getY(i) + 1.5) / 1.5, 0, 1.999);
        joints.set([Math.floor(along), Math.floor(along) + 1, 0, 0], 4 * i);
        weights.set([1 - (along % 1), along % 1, 0, 0], 4 * i);
      }
      primitive
        .setAttribute("JOINTS_0", part.accessor("VEC4", joints))
        .setAttribute("WEIGHTS_0", part.accessor("VEC4", weights));
      const bones = [0, 1, 2].map((n) =>
        part.document.createNode(`joint ${nth} ${n}`).setTranslation(n ? [0, 1.5, 0] : [2 * nth, -1.5, 0]),
      );
      bones[0].addChild(bones[1].addChild(bones[2]));
      const back = [0, 1, 2].flatMap((n) =>
        new THREE.Matrix4().makeTranslation(0, 1.5 - 1.5 * n, 0).toArray(),
      );
      const skin = part.document
        .createSkin()
        .setInverseBindMatrices(part.accessor("MAT4", new Float32Array(back)));
      bones.forEach((bone) => skin.addJoint(bone));
      const node = part.document
        .createNode(`arm ${nth}`)
        .setMesh(part.document.createMesh("arm").addPrimitive(primitive))
        .setSkin(skin)
        .setTranslation([5, 5, 5]);
      part.scene.addChild(node).addChild(bones[0]);
      animate(
        part,
        bones[1],
        "rotation",
        "LINEAR",
        [0, 1, 2],
        [...turn(0, 0, 0), ...turn(0, 0, 1.4), ...turn(0.8, 0, -1)],
      );
      animate(
        part,
        bones[2],
        "rotation",
        "CUBICSPLINE",
        [0, 2],
        [0, 0, 0, 0, ...turn(0, 0, 0), 0.3, 0, 0, 0, 0, 0.2, 0, 0, ...turn(0, 1, 0.5), 0, 0, 0, 0],
      );
      animate(part, bones[0], "translation", "LINEAR", [0, 2], [2 * nth, -1.5, 0, 2 * nth, -1, 0.5]);
    });
    return part.document;
  },
  /** Shapes and skin on one mesh. */
  both() {
    const part = begin("both");
    const { primitive, shape } = box(part, { size: [0.4, 2, 0.4], cells: 4 });
    const points = shape.attributes.position;
    const count = points.count;
    const weights = new Float32Array(4 * count);
    const joints = new Uint8Array(4 * count);
    const delta = new Float32Array(3 * count);
    for (let i = 0; i < count; i++) {
      const up = (points.getY(i) + 1) / 2;
      weights.set([1 - up, up, 0, 0], 4 * i);
      joints.set([0, 1, 0, 0], 4 * i);
      delta[3 * i + 2] = up * up;
    }
    primitive
      .setAttribute("JOINTS_0", part.accessor("VEC4", joints))
      .setAttribute("WEIGHTS_0", part.accessor("VEC4", weights));
    primitive.addTarget(
      part.document.createPrimitiveTarget().setAttribute("POSITION", part.accessor("VEC3", delta)),
    );
    const mesh = part.document.createMesh("stalk").addPrimitive(primitive).setWeights([0]);
    const [root, tip] = [
      part.document.createNode("root"),
      part.document.createNode("tip").setTranslation([0, 1, 0]),
    ];
    root.addChild(tip);
    const back = [new THREE.Matrix4(), new THREE.Matrix4().makeTranslation(0, -1, 0)].flatMap((matrix) =>
      matrix.toArray(),
    );
    const skin = part.document
      .createSkin()
      .setInverseBindMatrices(part.accessor("MAT4", new Float32Array(back)))
      .addJoint(root)
      .addJoint(tip);
    const node = part.document.createNode("stalk").setMesh(mesh).setSkin(skin);
    part.scene.addChild(root).addChild(node);
    animate(part, tip, "rotation", "LINEAR", [0, 2], [...turn(0, 0, 0), ...turn(0, 1, 2)]);
    animate(part, node, "weights", "CUBICSPLINE", [0, 1, 2], [0, 0, 1, 0, 1, 0, -1, 0.3, 0]);
    return part.document;
  },
};

function positions(scene) {
  scene.updateMatrixWorld(true);
  const out = [];
  const at = new THREE.Vector3();
  scene.traverse((thing) => {
    if (!thing.isMesh) return;
    if (thing.isSkinnedMesh) thing.skeleton.update();
    for (let i = 0; i < thing.geometry.attributes.position.count; i++)
      out.push(...thing.getVertexPosition(i, at).applyMatrix4(thing.matrixWorld).toArray());
  });
  return out;
}

async function played(bytes) {
  const { scene, animations } = await new GLTFLoader().parseAsync(
    bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength),
    "",
  );
  const mixer = new THREE.AnimationMixer(scene);
  animations.forEach((clip) => {
    const action = mixer.clipAction(clip);
    action.setLoop(THREE.LoopOnce);
    action.clampWhenFinished = true;
    action.play();
  });
  return FRAMES.map((frame) => {
    mixer.setTime(frame / RATE);
    return { frame, points: positions(scene) };
  });
}

globalThis.ProgressEvent ??= class {};
const io = new NodeIO();
for (const [name, make] of Object.entries(files)) {
  const bytes = await io.writeBinary(make());
  writeFileSync(join(folder, `${name}.glb`), bytes);
  writeFileSync(join(folder, `${name}.json`), JSON.stringify(await played(bytes)));
}
