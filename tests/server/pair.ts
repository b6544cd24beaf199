import { createServer, request } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Running } from '@gavrel/server';

/**
 * Two servers behind a proxy that gives every request to the other one than the last: whatever a server kept for itself would be missed at
 * once. It stands for any proxy that spreads requests.
 */
export async function pair(servers: readonly [Running, Running]): Promise<Running> {
  let turn = 0;
  // As long as the servers keep one: what is shut just as somebody asks on it is a request lost.
  const proxy = createServer({ keepAliveTimeout: 75_000 }, (asked, answer) => {
    const { port } = servers[(turn = 1 - turn) as 0 | 1];
    const { method, url: path, headers } = asked;
    const on = request({ host: '127.0.0.1', port, method, path, headers }, (got) => {
      // An answer before the whole body was sent: the rest of it is let go.
      asked.unpipe(on).resume();
      answer.writeHead(got.statusCode!, got.headers);
      got.pipe(answer);
    });
    on.on('error', () => answer.destroy());
    // Who goes away in the middle, goes away behind the proxy too.
    answer.on('close', () => on.destroy());
    asked.pipe(on);
  });
  await new Promise<void>((done) => proxy.listen(0, '127.0.0.1', done));
  return {
    port: (proxy.address() as AddressInfo).port,
    services: servers[0].services,
    stop: async () => {
      await Promise.all(servers.map((s) => s.stop()));
      proxy.closeAllConnections();
      await new Promise((done) => proxy.close(done));
    },
  };
}
