import { declarationLines, waybillStatements } from './form-data';

const p = (provision: string, netKg = 4.5, packaging = 'Fibreboard box') => ({
  ...{ un: 'UN 3480', name: 'Lithium ion batteries', provision, netKg, packaging },
});

test('the declaration tells like packages in one line, names section IB, and leaves out what needs none', () => {
  const lines = declarationLines([p('PI965-IB'), p('PI965-IB'), p('PI965-IA'), p('PI966-II'), p('SP188'), p('PI965-IB', 3)]);
  expect(lines.map((l) => [l.quantity, l.instruction, l.authorization])).toEqual([
    ['2 Fibreboard box each x 4.50 kg', '965', 'IB'],
    ['1 Fibreboard box x 4.50 kg', '965', ''],
    ['1 Fibreboard box x 3.00 kg', '965', 'IB'],
  ]);
});

test('the waybill tells section II once by packing instruction, and says nothing where no mark is asked or no plane flies', () => {
  const said = waybillStatements([
    { provision: 'PI967-II', marked: true },
    { provision: 'PI967-II', marked: true },
    { provision: 'PI966-II', marked: false },
    { provision: 'PI969-II', marked: true },
    { provision: 'SP188', marked: true },
    { provision: 'PI965-IB', marked: true },
  ]);
  expect(said).toEqual([
    'Lithium ion batteries in compliance with Section II of PI967',
    'Lithium metal batteries in compliance with Section II of PI969',
  ]);
});
