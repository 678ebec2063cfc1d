import type { Job } from "../api/types";

const WORDS: Record<string, string> = {
  run: "Run",
  strip: "Test strip",
  print: "Print",
  export: "Export",
  light: "Light of frames",
  sheet: "Contact sheet",
  track: "Following a spot",
  spots: "Finding spots",
  sighting: "Camera from spots",
  pin: "Pinning a prop",
  plate: "Reading a plate",
  mesh: "Reading a mesh",
  balance: "Balancing lamps",
  reel: "Moving picture",
  element: "Picture of a layer",
  clip: "Movie of the view",
  gauge: "Measuring this machine",
};
/** Small steps of looking at things say nothing. */
const QUIET = [
  "live",
  "bodies",
  "glance",
  "fog",
  "sketch",
  "surface",
  "volume",
  "meter",
  "element",
  "reel",
  "gauge",
];

/** What a job is called. */
export const jobWord = (job: Pick<Job, "kind">) => WORDS[job.kind] ?? job.kind;
/** Whether it is work of its own, not a step of looking at something. */
export const counts = (job: Job) => !QUIET.includes(job.kind);
