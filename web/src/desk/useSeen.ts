import { reactive, ref, watch, type ShallowRef } from "vue";
import { api } from "../api/client";
import { useDesk } from "../stores/desk";
import { tints } from "../theme";
import type { Axis } from "../view/slice";
import type { Stage } from "../view/stage";
import { fetchChannel, type Channel } from "../view/volumes";

/** What the view shows besides the picture: heat, one quantity more, a slice with arrows. */
export function useSeen(stage: ShallowRef<Stage | null>) {
  const desk = useDesk();
  const shown = reactive({ smoke: true, fire: true, heat: false });
  const quantity = ref<string | null>(null);
  const slice = reactive({ on: false, axis: "z" as Axis, part: 0.5, arrows: true });
  const range = ref("");
  let wasMore = false;
  const kept = new Map<string, Promise<Channel | null>>();

  function fetched(name: string): Promise<Channel | null> {
    const key = desk.row?.key;
    if (!key || !desk.shot) return Promise.resolve(null);
    const url = api.channelUrl(desk.shot.id, key, name);
    const found = kept.get(url) ?? fetchChannel(url);
    kept.set(url, found);
    if (kept.size > 40) kept.delete(kept.keys().next().value!);
    return found;
  }

  const tintOf = (name: string) => tints[name === "temperature" ? "heat" : name] ?? tints.light;

  async function refresh() {
    const view = stage.value;
    if (!view) return;
    const asked = [desk.row?.key, quantity.value, slice.on, slice.arrows].join();
    // Where nothing feeds gas there is nothing of it to be cut open.
    const gas = desk.nodes.some((node) => node.kind === "source" && !node.off);
    const name = quantity.value ?? (slice.on && gas ? "temperature" : null);
    const channel = name ? await fetched(name) : null;
    const flow = slice.on && slice.arrows && (gas || quantity.value) ? await fetched("velocity") : null;
    // Another frame may have been asked for meanwhile.
    if (asked !== [desk.row?.key, quantity.value, slice.on, slice.arrows].join()) return;
    const digits = (value: number) => Number(value.toPrecision(3));
    range.value = channel ? `${digits(channel.low)} to ${digits(channel.high)} ${channel.unit}` : "";
    view.marcher.setChannel(slice.on ? null : channel, name ? tintOf(name) : "#fff");
    view.slice.set(slice.on ? channel : null, flow, slice.axis, slice.part, name ? tintOf(name) : "#fff");
    // Where nothing more is seen and none was, the frame itself asks for what it needs.
    const more = !!name || slice.on;
    if (more || wasMore) view.touch();
    wasMore = more;
  }

  function setShown() {
    stage.value?.setShown(shown.smoke, shown.heat, shown.fire);
  }

  watch(shown, setShown);
  watch([() => desk.row?.key, quantity, slice], refresh, { deep: true });
  return { shown, quantity, slice, range, setShown };
}
