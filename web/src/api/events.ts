/** What happens elsewhere after the event `since`, told as it happens; reconnects by itself. */
export type Happening =
  "revision" | "frame" | "lit" | "job" | "print" | "shots" | "strip" | "live" | "machines" | "trouble";

export function listen(
  tell: (kind: Happening, data: Record<string, unknown> & { shot: string | null }) => void,
  connected: (alive: boolean) => void,
  since: number | null,
): () => void {
  const source = new EventSource(since === null ? "/api/events" : `/api/events?since=${since}`);
  source.onopen = () => connected(true);
  source.onerror = () => connected(false);
  for (const kind of [
    "revision",
    "frame",
    "lit",
    "job",
    "print",
    "shots",
    "strip",
    "live",
    "machines",
    "trouble",
  ] as const) {
    source.addEventListener(kind, (event) => tell(kind, JSON.parse((event as MessageEvent).data)));
  }
  return () => source.close();
}
