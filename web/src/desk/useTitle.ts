import { useWindowFocus } from "@vueuse/core";
import { computed, ref, watch } from "vue";
import { counts, jobWord } from "../lib/jobWords";
import { useDesk } from "../stores/desk";
import { useNotices } from "../stores/notices";

/** The window's title: how far long work is, and what was done while one looked elsewhere. */
export function useTitle() {
  const desk = useDesk();
  const notices = useNotices();
  const focused = useWindowFocus();
  /** What ended meanwhile. */
  const ended = ref("");

  const going = computed(() => {
    const job = desk.active.find((one) => counts(one) && one.state === "running" && !one.background);
    return job?.total && (job.seconds ?? 0) > 2 ? `${Math.floor((100 * job.done) / job.total)} %` : "";
  });

  watch(
    () => desk.ended,
    (job) => {
      if (!job || focused.value || !counts(job) || job.background || (job.seconds ?? 0) < notices.LONG)
        return;
      if (job.state === "cancelled") return;
      ended.value = `${jobWord(job)} ${job.state === "done" ? "done" : "failed"}`;
      notices.tell(desk.shot?.name ?? "Vumbral", job.error ?? `${ended.value}.`);
    },
  );
  watch(focused, (here) => here && (ended.value = ""));
  watch(
    () => desk.shot && [ended.value || going.value, desk.shot.name, "Vumbral"].filter(Boolean).join(" · "),
    (title) => title && (document.title = title),
    { immediate: true },
  );
}
