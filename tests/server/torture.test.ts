import { torture } from '../../tools/torture';

jest.setTimeout(120_000);

test('a short torture: nothing acknowledged lost, nothing doubled, tables equal a replay', async () => {
  const c = await torture(7, 8);
  expect(c.serverKills + c.databaseKills).toBeGreaterThan(2);
  expect(c.acknowledged).toBeGreaterThan(50);
  expect(c).toMatchObject({ lost: 0, doubled: 0, changed: 0, drift: 0, stored: c.acknowledged });
});
