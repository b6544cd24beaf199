import { spawnSync } from 'node:child_process';

const gavrel = (...args: readonly string[]) => spawnSync('./gavrel', args, { encoding: 'utf8' });

test('what a command does not take is told, and nothing else is run in its place', () => {
  const slips = [
    [['practice', '--pakcs', '3'], 'practice takes no --pakcs'],
    [['start', 'demo'], 'start takes no demo'],
    [['stop', '--now'], 'stop takes no --now'],
    [['log', '--rated'], '--rated is not given as it is taken'],
    [['strat', '--demo'], 'there is no command strat'],
  ] as const;
  for (const [args, words] of slips) {
    const r = gavrel(...args);
    expect([r.status, r.stdout]).toEqual([1, '']);
    expect(r.stderr).toMatch(new RegExp(`^gavrel: ${words}: \\./gavrel help .*\n$`));
  }
  expect(gavrel('plan', '--help').stdout).toBe(gavrel('help').stdout);
});
