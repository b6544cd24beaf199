import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { DARK, LIGHT } from '../../theme';
import { rememberSignedIn, takeEarly } from './early';

const PAGE = readFileSync(join(__dirname, '../../../public/index.html'), 'utf8');
const open = () => {
  document.body.innerHTML = /<main id="early">[\s\S]*<\/main>/.exec(PAGE)![0];
  document.documentElement.className = 'early';
};
const type = (id: string, text: string) => {
  const field = document.getElementById(id) as HTMLInputElement;
  field.focus();
  field.value = text;
};

test('what was typed on the page is taken over with the field one is in, once, and its form is gone', () => {
  open();
  type('early-name', 'Tomas');
  type('early-passphrase', 'sa');
  expect(takeEarly()).toEqual({ name: 'Tomas', passphrase: 'sa', at: 'passphrase', submitted: false });
  expect([document.getElementById('early'), document.documentElement.className]).toEqual([null, '']);
  expect(takeEarly()).toBeNull();
});

test('the script of the page shows the form to whom nobody knows, and keeps that it was sent', () => {
  const script = readFileSync(join(__dirname, '../../../public/early.js'), 'utf8');
  rememberSignedIn(true);
  document.documentElement.className = '';
  window.eval(script);
  expect(document.documentElement.className).toBe('');
  rememberSignedIn(false);
  window.eval(script);
  expect(document.documentElement.className).toBe('early');
  open();
  document.getElementById('early-form')!.dispatchEvent(new Event('submit', { bubbles: true, cancelable: true }));
  expect(takeEarly()!.submitted).toBe(true);
});

test('it has the colours of the application', () => {
  const tokens = [...Object.values(LIGHT), ...Object.values(DARK)].map((c) => String(c).toLowerCase());
  const used = /<style id="frame">[\s\S]*<\/style>/.exec(PAGE)![0].match(/#[0-9a-f]{3,6}(?=;)/g)!;
  expect(used.length).toBeGreaterThan(20);
  for (const c of new Set(used)) expect(tokens).toContain(c.length === 4 ? c.replace(/[0-9a-f]/g, '$&$&') : c);
});
