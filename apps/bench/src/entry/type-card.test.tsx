import 'fake-indexeddb/auto';
import { cleanup, render, screen } from '@testing-library/react';
import { Provider } from 'react-redux';
import { draft } from '../device/write';
import { storeWith } from './testing';
import { TypeCard } from './type-card';

afterEach(cleanup);

const pack = (n: number, typeCode: string, full: number) => {
  const s = [`pack:b0000000-0000-4000-8000-00000000000${n}`] as const;
  return [
    draft('pack-added', s, { tag: `T-${n}`, use: 'spare' }),
    draft('label-read', s, { typeCode, madeOn: '2020' }),
    draft('gauge-read', s, {
      designCapacity: { digits: '5000', unit: 'mAh' },
      fullChargeCapacity: { digits: String(full), unit: 'mAh' },
    }),
  ];
};

test('packs of one type stand together, however the code was typed; others do not, and one alone is no crowd', async () => {
  const store = await storeWith([...pack(1, 'MG14-B57', 4500), ...pack(2, 'mg14-b57 ', 3500), ...pack(3, 'MG15-B60', 1000)]);
  const show = (code: string) => {
    cleanup();
    render(
      <Provider store={store}>
        <TypeCard code={code} />
      </Provider>,
    );
  };
  show('MG14-B57');
  expect(screen.getByTestId('card-type').textContent).toMatch(/\d years: 2 packs, health 6\d to 9\d %/);
  for (const code of ['MG15-B60', '', 'nothing']) {
    show(code);
    expect(screen.queryByTestId('card-type')).toBeNull();
  }
});
