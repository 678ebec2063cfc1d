import { decode } from "./decode";

interface Asked {
  name: string;
  url: string;
  /** What is sent along, where something is asked for that is not kept. */
  body?: string;
}

// Fetches and reads volumes beside the page, which has enough to do with drawing them.
self.onmessage = async ({ data: { name, url, body } }: MessageEvent<Asked>) => {
  const sent = body ? { method: "POST", headers: { "content-type": "application/json" }, body } : {};
  const buffer = await fetch(url, sent)
    .then((response) => (response.status === 200 ? response.arrayBuffer() : null))
    .catch(() => null);
  const volume = buffer && decode(name, buffer);
  const moved = volume ? [volume.lit.buffer, volume.busy.data.buffer] : [];
  self.postMessage({ name, volume }, { transfer: moved });
};
