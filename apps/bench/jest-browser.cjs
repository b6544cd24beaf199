/** What a browser has and the tests' imitation of one lacks: channels that nobody else hears, news that never come. */
class Quiet {
  onmessage = null;
  postMessage() {}
  close() {}
}
Object.assign(AbortSignal, { timeout: () => undefined });
Object.assign(globalThis, {
  BroadcastChannel: Quiet,
  EventSource: Quiet,
  structuredClone: (v) => JSON.parse(JSON.stringify(v)),
});
