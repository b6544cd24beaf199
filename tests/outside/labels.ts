import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from 'puppeteer-core';
import { seeded } from '../../tools/common';

/** What is printed on a made-up label. */
export interface PrintedLabel {
  readonly file: string;
  readonly spoiled: string;
  readonly figures: Readonly<Record<string, string>>;
}

const CELLS = [
  [3.6, 4.2],
  [3.7, 4.2],
  [3.8, 4.35],
  [3.85, 4.4],
] as const;
const FONTS = ['DejaVu Sans', 'DejaVu Serif', 'DejaVu Sans Mono', 'Liberation Sans', 'Liberation Serif'] as const;

/** How a picture is spoiled: one thing each, as strong as a careless hand does it. */
const SPOILS: readonly (readonly [name: string, style: string, over: string])[] = [
  ['flat', '', ''],
  ['turned by 4 degrees', 'transform:rotate(4deg)', ''],
  ['turned by -9 degrees', 'transform:rotate(-9deg)', ''],
  ['turned by 15 degrees', 'transform:rotate(15deg)', ''],
  ['blurred', 'filter:blur(1px)', ''],
  ['grainy', '', 'grain'],
  ['glare', '', 'background:radial-gradient(circle at 60% 45%,rgba(255,255,255,.75),rgba(255,255,255,0) 24%)'],
  ['low light', '', 'background:rgba(0,0,0,.6)'],
  ['askew', 'transform:rotateY(16deg) rotateX(6deg)', ''],
  ['light on dark', 'filter:invert(1)', ''],
  ['on its head', 'transform:rotate(180deg)', ''],
  ['on its side', 'transform:rotate(90deg) scale(.75)', ''],
  ['ruled', 'border:3px solid', ''],
];

const GRAIN = `const x=document.getElementById('o').getContext('2d');const d=x.createImageData(1200,800);let s=9;
for(let k=0;k<d.data.length;k+=4){s=(s*1664525+1013904223)>>>0;d.data[k]=d.data[k+1]=d.data[k+2]=s&1024?255:0;d.data[k+3]=(s>>>24)%40}x.putImageData(d,0,0)`;

/** Draws labels with what is on them known, each spoiled in one way, as a browser draws them. */
export async function drawLabels(page: Page, folder: string, count: number): Promise<PrintedLabel[]> {
  const random = seeded(23);
  const pick = <T>(all: readonly T[]): T => all[Math.floor(random() * all.length)]!;
  await page.setViewport({ width: 1200, height: 800 });
  const out: PrintedLabel[] = [];
  for (let i = 0; i < count; i++) {
    const series = pick([2, 3, 4]);
    const [cell, limit] = pick(CELLS);
    const mAh = 3000 + Math.floor(random() * 4500);
    const short = (x: number) => String(Math.round(x * 100) / 100);
    const figures = {
      nominalVoltage: short(series * cell),
      ratedCapacity: String(mAh),
      ratedEnergy: ((series * cell * mAh) / 1000).toFixed(pick([1, 2])),
      limitedChargeVoltage: short(series * limit),
    };
    const { nominalVoltage: v, ratedCapacity: q, ratedEnergy: e, limitedChargeVoltage: l } = figures;
    const designation = `${series}ICP${pick([5, 6, 7])}/60/${pick([80, 91])}`;
    const comma = (x: string) => x.replace('.', ',');
    const typical = mAh + 40 + Math.floor(random() * 120);
    const named = (name: string, value: string) => `<td>${name}</td><td>${value}</td>`;
    const lines = pick([
      [
        'Rechargeable Li-ion battery',
        `Rated voltage: ${v} V`,
        `Rated capacity: ${q} mAh / ${e} Wh`,
        `Limited charge voltage: ${l} V`,
        designation,
      ],
      [
        `Li-ion battery pack ${designation}`,
        `${v}V ${q}mAh ${e}Wh`,
        `Max charge voltage ${l}V`,
        'Do not crush, puncture or heat',
      ],
      [
        'Lithium-Ionen-Akku',
        `Nennspannung ${comma(v)} V`,
        `Kapazität ${q} mAh`,
        `Energie ${comma(e)} Wh`,
        `Ladeschlussspannung ${comma(l)} V`,
        designation,
      ],
      [
        `Rated capacity: ${q.replace(/(?=\d{3}$)/, ',')} mAh / ${e} Wh`,
        `Typical capacity: ${typical} mAh / ${((series * cell * typical) / 1000).toFixed(1)} Wh`,
        `Nominal voltage: ${v} V, limited charge`,
        `voltage: ${l} V`,
      ],
      [
        `<table border=1 cellpadding=8>
          <tr>${named('Rated voltage', `${v} V`)}${named('Limit', `${l} V`)}</tr>
          <tr>${named('Rated capacity', `${q} mAh`)}${named('Energy', `${e} Wh`)}</tr>
        </table>`,
      ],
    ]);
    const [spoiled, style, over] = SPOILS[i % SPOILS.length]!;
    await page.setContent(
      `<style>body{margin:0;background:#8a8a80;width:1200px;height:800px;display:flex;align-items:center;justify-content:center;perspective:1100px}
       #l{background:#f4f3ee;color:#111;font:${pick([24, 30, 36])}px '${pick(FONTS)}',sans-serif;padding:30px 40px;line-height:1.5;${style}}
       td{white-space:nowrap}table{border-collapse:collapse;font:inherit}
       #o{position:absolute;left:0;top:0;width:1200px;height:800px;${over === 'grain' ? '' : over}}</style>
       <div id=l>${lines.map((x) => `<div>${x}</div>`).join('')}</div><canvas id=o width=1200 height=800></canvas>
       ${over === 'grain' ? `<script>${GRAIN}</script>` : ''}`,
    );
    const file = join(folder, `label-${i}.png`);
    writeFileSync(file, await page.screenshot());
    out.push({ file, spoiled, figures });
  }
  return out;
}
