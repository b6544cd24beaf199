import { build } from '../../tools/build';
import { torture } from '../../tools/torture';

// The application is built by the browser's tests already; alone this one builds it.
jest.setTimeout(400_000);

test('a short torture, a real browser among the devices: nothing acknowledged lost, nothing doubled, tables equal a replay', async () => {
  const c = await torture(7, 20, await build(() => undefined));
  expect(c.serverKills + c.databaseKills).toBeGreaterThan(2);
  expect(c.browserKills).toBeGreaterThan(0);
  expect(c.acknowledged).toBeGreaterThan(50);
  expect(c).toMatchObject({ lost: 0, doubled: 0, changed: 0, drift: 0, stored: c.acknowledged });
});
