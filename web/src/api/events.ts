/** What happens elsewhere, told as it happens. */
const KINDS = [
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
] as const;
export type Happening = (typeof KINDS)[number];
type Tell = (kind: Happening, data: Record<string, unknown> & { shot: string | null }) => void;
type Connected = (alive: boolean) => void;

/** The line that all share who listen from now on: a browser has few to one server. */
let line: { source: EventSource; listeners: Set<{ tell: Tell; connected: Connected }> } | null = null;

function open(address: string, tell: Tell, connected: Connected): EventSource {
  const source = new EventSource(address);
  source.onopen = () => connected(true);
  source.onerror = () => connected(false);
  for (const kind of KINDS)
    source.addEventListener(kind, (event) => tell(kind, JSON.parse((event as MessageEvent).data)));
  return source;
}

function share(tell: Tell, connected: Connected): () => void {
  if (!line) {
    const listeners = new Set<{ tell: Tell; connected: Connected }>();
    line = {
      listeners,
      source: open(
        "/api/events",
        (kind, data) => listeners.forEach((one) => one.tell(kind, data)),
        (alive) => listeners.forEach((one) => one.connected(alive)),
      ),
    };
  }
  const mine = line;
  const one = { tell, connected };
  mine.listeners.add(one);
  if (mine.source.readyState === EventSource.OPEN) connected(true);
  return () => {
    mine.listeners.delete(one);
    if (mine.listeners.size) return;
    mine.source.close();
    if (line === mine) line = null;
  };
}

/** What happens elsewhere after the event `since`, or from now on; reconnects by itself. */
export function listen(tell: Tell, connected: Connected, since: number | null): () => void {
  if (since === null) return share(tell, connected);
  const source = open(`/api/events?since=${since}`, tell, connected);
  return () => source.close();
}
