import { torture } from '../../tools/torture';

jest.setTimeout(120_000);

// `./gavrel torture` has a real browser among the devices; here they are few and quick.
test('a short torture: nothing acknowledged lost, nothing doubled, tables equal a replay', async () => {
  const c = await torture(7, 8, null);
  expect(c.serverKills + c.databaseKills).toBeGreaterThan(2);
  expect(c.acknowledged).toBeGreaterThan(50);
  expect(c).toMatchObject({ lost: 0, doubled: 0, changed: 0, drift: 0, stored: c.acknowledged });
});
