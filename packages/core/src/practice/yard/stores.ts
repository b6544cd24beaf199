import type { WrittenStaged } from '../staged/scenario';

/** Packs that have to be put somewhere, of our own; people are invented. */
export const STORES: readonly WrittenStaged[] = [
  {
    id: 'store-1',
    grade: 'yard and watch',
    title: 'The last one of the day',
    story: 'It passed everything. The bench has to be empty before the lights go out.',
    yard: { findings: [], full: [] },
    expert: ['look', 'room', 'tape', 'carry', 'months', 'done'],
    careless: ['look', 'room', 'stack', 'carry', 'months', 'done'],
  },
  {
    id: 'store-2',
    grade: 'yard and watch',
    title: 'A little thicker than its brothers',
    story: 'It came out of a machine whose owner will decide on Monday whether he wants it back.',
    yard: { findings: ['swollen'], full: [] },
    expert: ['look', 'room', 'tape', 'sand', 'date', 'carry', 'daily', 'done'],
    careless: ['look', 'room', 'tape', 'carry', 'door', 'months', 'done'],
  },
  {
    id: 'store-3',
    grade: 'yard and watch',
    title: 'No room in the box',
    story: 'It fell off the bench on its corner. The box for such packs was filled this morning.',
    yard: { findings: ['cell-dented'], full: ['quarantine'] },
    expert: ['look', 'room', 'tape', 'sand', 'date', 'carry', 'daily', 'done'],
    careless: ['shelve'],
  },
  {
    id: 'store-4',
    grade: 'yard and watch',
    title: 'For the drum',
    story: 'Nobody wants it any more: it holds an hour, and there are better ones.',
    yard: { findings: ['worn-out'], full: [] },
    expert: ['look', 'room', 'tape', 'date', 'carry', 'months', 'done'],
    careless: ['look', 'room', 'carry', 'months', 'done'],
  },
  {
    id: 'store-5',
    grade: 'yard and watch',
    title: 'Something runs out of it',
    story: 'A pack from a cellar, in a plastic bag. The bag is wet inside.',
    yard: { findings: ['leaking'], full: [] },
    expert: ['look', 'room', 'called', 'hourly', 'done'],
    careless: ['look', 'room', 'carry'],
  },
  {
    id: 'store-6',
    grade: 'yard and watch',
    title: 'It makes a noise',
    story: 'On the shelf among the others. It hisses.',
    yard: { findings: ['hissing'], full: [] },
    expert: ['leave'],
    careless: ['look'],
  },
];
