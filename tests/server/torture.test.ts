import { build } from '../../tools/build';
import { torture } from '../../tools/torture';

// The application is built by the browser's tests already; alone this one builds it.
jest.setTimeout(400_000);

test('a short torture, a real browser among the devices: nothing acknowledged lost, nothing doubled, tables equal a replay', async () => {
  // Each kill waits until what it killed is up again: on a busy machine twenty seconds held two of them.
  const c = await torture(7, 35, await build(() => undefined));
  expect(c.serverKills + c.databaseKills).toBeGreaterThan(2);
  expect(c.browserKills).toBeGreaterThan(0);
  expect(c.acknowledged).toBeGreaterThan(50);
  expect(c).toMatchObject({ lost: 0, doubled: 0, changed: 0, drift: 0, stored: c.acknowledged });
});
