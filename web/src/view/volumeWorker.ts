import { decode } from "./decode";

// Fetches and reads volumes beside the page, which has enough to do with drawing them.
self.onmessage = async ({ data: { name, url } }: MessageEvent<{ name: string; url: string }>) => {
  const buffer = await fetch(url)
    .then((response) => (response.ok ? response.arrayBuffer() : null))
    .catch(() => null);
  const volume = buffer && decode(name, buffer);
  const moved = volume ? [volume.lit.buffer, volume.busy.data.buffer] : [];
  self.postMessage({ name, volume }, { transfer: moved });
};
