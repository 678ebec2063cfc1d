import { ref, type Ref, type ShallowRef } from "vue";
import { api } from "../api/client";
import type { Job, Print, ShotAnswer } from "../api/types";

/** Prints and contact sheets of the shot on the desk. */
export function usePictures(
  shot: ShallowRef<ShotAnswer | null>,
  frame: Ref<number>,
  sheeting: Ref<Job | undefined>,
  attempt: <T>(work: () => Promise<T>) => Promise<T | null>,
) {
  const prints = ref<Print[]>([]);
  const measuring = ref(false);
  /** The contact sheet that is looked at. */
  const sheet = ref<string | null>(null);

  async function takePrint() {
    if (shot.value) await attempt(() => api.print(shot.value!.id, frame.value));
  }

  async function loadPrints() {
    if (shot.value) prints.value = await api.prints(shot.value.id).catch(() => prints.value);
  }

  /** @return the exposure that this frame asks for */
  async function measure(): Promise<number | null> {
    if (!shot.value || measuring.value) return null;
    measuring.value = true;
    const found = await attempt(() => api.meter(shot.value!.id, frame.value));
    measuring.value = false;
    return found ? found.exposure : null;
  }

  async function takeSheet() {
    if (shot.value && !sheeting.value) await attempt(() => api.sheet(shot.value!.id));
  }

  return { prints, measuring, sheet, takePrint, loadPrints, measure, takeSheet };
}
