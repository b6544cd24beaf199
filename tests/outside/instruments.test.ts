import { execFile } from 'node:child_process';
import { promisify } from 'node:util';
import { randomOf, simulate } from '@gavrel/core/practice';
import { type StandIn, STAND_INS, standIn } from '../../tools/instruments';

const pack = simulate(randomOf(9));
const all: StandIn[] = [];
beforeAll(async () => {
  for (const kind of STAND_INS) all.push(await standIn(kind, pack, 0));
});
afterAll(() => Promise.all(all.map((s) => s.close())));

/** What an independent client asks: PyVISA with PyVISA-py, both from Debian, over a plain socket. */
const CLIENT = `
import sys, json, pyvisa
rm = pyvisa.ResourceManager('@py')
out = []
for port, asks in json.loads(sys.argv[1]):
    r = rm.open_resource('TCPIP0::127.0.0.1::%d::SOCKET' % port, read_termination='\\n', write_termination='\\n', open_timeout=5000)
    r.timeout = 5000
    if asks == '':
        r.read()
        out.append(r.read().strip())
    else:
        said = [r.query('*IDN?'), r.query(asks)]
        r.write('VOLTAGE OF EVERYTHING')
        said += [r.query('SYST:ERR?'), r.query('SYST:ERR?')]
        out.append(said)
    r.close()
print(json.dumps(out))
`;

test('an independent client reads the simulated instruments as it reads any other', async () => {
  const asked = all.filter((s) => s.name !== 'gauge reader').map((s) => [s.port, STAND_INS.find((k) => k.name === s.name)!.asks]);
  const { stdout } = await promisify(execFile)('/usr/bin/python3', ['-c', CLIENT, JSON.stringify(asked)], { timeout: 60_000 });
  const [meter, thermometer, calliper, scale, load] = JSON.parse(stdout) as [string[], string[], string, string, string[]];
  expect(meter[0]).toMatch(/^Gavrel,stand-in meter/);
  expect(Number(meter[1])).toBeCloseTo(
    pack.cells.reduce((a, b) => a + b, 0),
    1,
  );
  expect(meter.slice(2)).toEqual([expect.stringMatching(/^-113,/), expect.stringMatching(/^0,/)]);
  expect(Math.abs(Number(thermometer[1]) - pack.surfaceC)).toBeLessThan(0.5);
  expect(calliper).toMatch(/^\d+\.\d\d mm$/);
  expect(Math.abs(Number(scale.split(' ')[0]) - pack.grams)).toBeLessThan(1);
  expect(load[0]).toMatch(/^Gavrel,stand-in load/);
  expect(Number(load[1])).toBeCloseTo(
    pack.cells.reduce((a, b) => a + b, 0),
    1,
  );
  expect(load.slice(2)).toEqual([expect.stringMatching(/^-113,/), expect.stringMatching(/^0,/)]);
});

/** Draws a current for a second, and leaves without switching off. */
const DRAWS = `
import sys, json, time, pyvisa
rm = pyvisa.ResourceManager('@py')
r = rm.open_resource('TCPIP0::127.0.0.1::%s::SOCKET' % sys.argv[1], read_termination='\\n', write_termination='\\n', open_timeout=5000)
r.timeout = 5000
out = [r.query('INP?')]
for text in ('INP:TIM 1', 'CURR 1.5', 'INP ON'):
    r.write(text)
    out.append(r.query('SYST:ERR?'))
out += [r.query('INP?'), r.query('MEAS:CURR?'), r.query('MEAS:VOLT?')]
time.sleep(1.5)
out.append(r.query('INP?'))
print(json.dumps(out))
`;

test('a foreign client draws current with the simulated load, whose own time-out ends it', async () => {
  const { port } = all.find((s) => s.name === 'load')!;
  const { stdout } = await promisify(execFile)('/usr/bin/python3', ['-c', DRAWS, String(port)], { timeout: 60_000 });
  const said = JSON.parse(stdout) as string[];
  expect([said[0], said[4], said[7]]).toEqual(['0', '1', '0']);
  for (const error of said.slice(1, 4)) expect(error).toMatch(/^0,/);
  expect(Number(said[5])).toBeCloseTo(1.5, 2);
  const rest = pack.cells.reduce((a, b) => a + b, 0);
  expect(Number(said[6])).toBeLessThan(rest - 0.05);
  expect(Number(said[6])).toBeGreaterThan(rest - 1);
});
