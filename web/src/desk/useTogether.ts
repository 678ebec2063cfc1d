import * as THREE from "three";
import type { ShallowRef } from "vue";
import { useChosen } from "../stores/chosen";
import type { Stage } from "../view/stage";

/** What else is chosen goes along in the view while the hand moves one of them. */
export function useTogether(stage: ShallowRef<Stage | null>) {
  const chosen = useChosen();
  const starts = new Map<THREE.Object3D, THREE.Vector3>();

  /** @param lead what the hand has */
  function begin(lead: string) {
    starts.clear();
    if (!chosen.all.includes(lead)) return;
    for (const id of chosen.all) {
      const object = id === lead ? undefined : stage.value?.props.object(id);
      if (object) starts.set(object, object.position.clone());
    }
  }

  /** @param by how far the hand has come, metres */
  function along(by: THREE.Vector3) {
    for (const [object, start] of starts) object.position.copy(start).add(by);
  }

  return { begin, along };
}
