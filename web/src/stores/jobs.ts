import { computed, ref } from "vue";
import type { Job } from "../api/types";

const going = (job: Job) => job.state === "running" || job.state === "queued";

/** The work that is done for a shot, as it is told. */
export function useJobs(ended: (job: Job) => void) {
  const jobs = ref(new Map<number, Job>());
  const active = computed(() => [...jobs.value.values()].filter(going));
  const running = computed(() => active.value.find((job) => job.kind === "run"));
  const printing = computed(() => active.value.filter((job) => job.kind === "print"));
  const sheeting = computed(() => active.value.find((job) => job.kind === "sheet"));
  const exporting = computed(() => active.value.find((job) => job.kind === "export"));

  function begin(known: Job[]) {
    jobs.value = new Map(known.map((job) => [job.id, job]));
  }

  function hear(job: Job) {
    const before = jobs.value.get(job.id);
    jobs.value.set(job.id, job);
    if (!going(job) && before?.state !== job.state) ended(job);
  }

  return { jobs, active, running, printing, sheeting, exporting, begin, hear };
}

/** What is said when a job is done; null where nothing needs to be. */
export function outcome(job: Job): string | null {
  const result = job.result ?? {};
  if (job.kind === "run" && !job.background && result.seconds === undefined) {
    const surfaces = result.surfaces ?? (result.liquid as Record<string, unknown> | undefined)?.surfaces;
    return surfaces ? null : "Every frame is up to date; nothing had to be run.";
  }
  if (job.kind === "export")
    return (
      `${result.files} files are ready: frames ${result.frames}.` +
      (result.missing ? ` Frames ${result.missing} have not been run.` : "")
    );
  if (job.kind === "track" && result.slipped)
    return `${result.name} slipped at frame ${result.slipped}; put it right there by hand, then follow it on.`;
  if (job.kind === "pin")
    return `${result.name} is pinned on ${result.frames} frames, ${result.off} pixels off in the mean.`;
  if (job.kind === "spots") return `${result.kept} spots were followed, of ${result.found} that were found.`;
  if (job.kind === "sighting") {
    const wrong = result.wrong as string[];
    return (
      `The camera is known on ${result.frames} frames; its spots lie ${result.off} pixels off in the mean.` +
      (wrong.length ? ` Left out on some frames: ${wrong.join(", ")}.` : "")
    );
  }
  if (job.kind === "track") return `${result.name} was followed over ${result.found} frames.`;
  return null;
}
