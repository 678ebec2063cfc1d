import * as THREE from "three";

/** The arms of a mark, metres. */
const ARMS = new THREE.BufferGeometry().setFromPoints(
  [0, 1, 2].flatMap((axis) => [-0.16, 0.16].map((far) => new THREE.Vector3().setComponent(axis, far))),
);

/** A small ball over everything that stands for a lamp, a force or an emitter. */
export interface MarkView {
  id: string;
  position: number[];
  colour: THREE.ColorRepresentation;
}

/** The marks of what has no shape. */
export class Marks {
  readonly group = new THREE.Group();

  /** @param props the props in the view */
  constructor(private props: THREE.Group) {}

  /** Balls; those of props without a body have arms, and go where these go. */
  set(marks: MarkView[], selected: string[]) {
    this.group.clear();
    for (const mark of marks) {
      const ball = new THREE.Mesh(
        new THREE.SphereGeometry(selected.includes(mark.id) ? 0.07 : 0.05, 16, 12),
        new THREE.MeshBasicMaterial({ color: new THREE.Color(mark.colour) }),
      );
      ball.name = mark.id;
      ball.position.fromArray(mark.position);
      if (this.props.getObjectByName(mark.id))
        ball.add(new THREE.LineSegments(ARMS, new THREE.LineBasicMaterial({ color: mark.colour })));
      this.group.add(ball);
    }
    this.follow();
  }

  /** Puts the marks of props without a body where these are now. */
  follow() {
    for (const mark of this.group.children) {
      const prop = this.props.getObjectByName(mark.name);
      if (!prop) continue;
      mark.position.copy(prop.position);
      mark.rotation.copy(prop.rotation);
      mark.visible = prop.visible;
    }
  }
}
