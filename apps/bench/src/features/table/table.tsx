import { factWords, localDay } from '@gavrel/core';
import { COLUMNS, decodeText, MAX_TABLE, type Ruled, wordOfRow, writeTable } from '@gavrel/core/batch';
import { useEffect, useMemo, useRef, useState } from 'react';
import { FlatList, View } from 'react-native';
import { chooseFile, saveFile } from '../../device/picture';
import { useZone } from '../../state/rulings';
import { useDraft } from '../../state/use-draft';
import { SPACE, useTokens, useWide } from '../../theme';
import { Field } from '../../ui/field';
import { Card, Row, Side } from '../../ui/frame';
import { Choice, Button } from '../../ui/buttons';
import { Sheet } from '../../ui/sheet';
import { Heading, Words } from '../../ui/words';
import { Line, RowSheet } from './row';
import { RulingsGrid } from './rulings-grid';
import type { StockLine } from './stock';
import { StockSheet } from './stock-sheet';
import type { Answer, Order } from './table.worker';
import { MARK, type Word } from './words';

type Filter = Word | 'all';
const SORTS = ['line', 'outcome', 'condition', 'provision'] as const;
type Sort = (typeof SORTS)[number];
interface State {
  readonly headings: readonly string[];
  readonly mapping: Readonly<Record<number, string>>;
  readonly rows: number;
  readonly done: number;
  readonly ruled: readonly Ruled[] | null;
  readonly stock: readonly StockLine[];
  readonly trouble: string;
}
const NOTHING: State = { headings: [], mapping: {}, rows: 0, done: 0, ruled: null, stock: [], trouble: '' };

/** Runs the worker; one table at a time, the last one wins. */
function useRuling() {
  const [state, setState] = useState<State>(NOTHING);
  const worker = useRef<Worker | null>(null);
  useEffect(() => () => worker.current?.terminate(), []);
  const run = (order: Order) => {
    worker.current?.terminate();
    const w = new Worker(new URL('./table.worker', import.meta.url));
    worker.current = w;
    setState(NOTHING);
    w.onmessage = ({ data: a }: MessageEvent<Answer>) => {
      if (a.kind === 'headings') setState((s) => ({ ...s, headings: a.headings, mapping: a.mapping, rows: a.rows }));
      if (a.kind === 'progress') setState((s) => ({ ...s, done: a.done }));
      if (a.kind === 'done') setState((s) => ({ ...s, done: a.ruled.length, ruled: a.ruled, stock: a.stock }));
      if (a.kind === 'trouble') setState((s) => ({ ...s, trouble: a.words }));
    };
    w.onerror = () => setState((s) => ({ ...s, trouble: 'the table could not be read here: reload the application' }));
    w.postMessage(order);
  };
  return { state, run };
}

/** Headings nobody knew: what each means, or that it is left out. */
function Headings({ state, onMean }: { state: State; onMean: (index: number, name: string) => void }) {
  const [asking, setAsking] = useState<number | null>(null);
  const unknown = state.headings.flatMap((h, i) => (h !== '' && state.mapping[i] === undefined ? [i] : []));
  const free = COLUMNS.filter((c) => !Object.values(state.mapping).includes(c.name));
  if (unknown.length === 0) return null;
  return (
    <Card title="Headings nobody knows" testID="card-headings">
      {unknown.map((i) => (
        <View key={i} style={{ flexDirection: 'row', alignItems: 'center', gap: 8 }}>
          <Words style={{ flex: 1 }}>{`${state.headings[i]!}: left out`}</Words>
          <Button label="It means…" hint={state.headings[i]!} onPress={() => setAsking(i)} testID={`mean-${i}`} />
        </View>
      ))}
      {asking === null ? null : (
        <Sheet title={`${state.headings[asking]!} means`} onClose={() => setAsking(null)}>
          {free.map((c) => (
            <Button
              key={c.name}
              label={factWords(c.name)}
              onPress={() => {
                onMean(asking, c.name);
                setAsking(null);
              }}
            />
          ))}
        </Sheet>
      )}
    </Card>
  );
}

/** The rows in view, in order, and how many there are of each outcome. */
function useShown(ruled: readonly Ruled[] | null) {
  const [filter, setFilter] = useState<Filter>('all');
  const [sort, setSort] = useState<Sort>('line');
  const totals = useMemo(() => {
    const out = new Map<Word, number>();
    for (const r of ruled ?? []) out.set(wordOfRow(r), (out.get(wordOfRow(r)) ?? 0) + 1);
    return out;
  }, [ruled]);
  const shown = useMemo(() => {
    const list = (ruled ?? []).filter((r) => filter === 'all' || wordOfRow(r) === filter);
    const key = (r: Ruled) => (sort === 'outcome' ? wordOfRow(r) : sort === 'line' ? '' : (r[sort] ?? ''));
    return sort === 'line' ? list : [...list].sort((a, b) => (key(a) < key(b) ? -1 : key(a) > key(b) ? 1 : a.line - b.line));
  }, [ruled, filter, sort]);
  return { filter, setFilter, sort, setSort, totals, shown };
}

/** How many of each outcome, as filters, and what can be done with all of it. */
function TotalsCard({
  ruled,
  view: { filter, setFilter, sort, setSort, totals },
  onStock,
}: {
  ruled: readonly Ruled[];
  view: ReturnType<typeof useShown>;
  onStock: () => void;
}) {
  const wide = useWide();
  return (
    <Card title={`${ruled.length} rows`} testID="card-totals">
      <Row gap={6}>
        <Button label={`all ${ruled.length}`} role="radio" selected={filter === 'all'} onPress={() => setFilter('all')} />
        {[...totals].map(([word, n]) => (
          <Button
            key={word}
            label={`${MARK[word]} ${word} ${n}`}
            role="radio"
            selected={filter === word}
            onPress={() => setFilter(word)}
            testID={`total-${word.replace(' ', '-')}`}
          />
        ))}
      </Row>
      {wide ? null : (
        <>
          <Words size={15} soft>
            In the order of
          </Words>
          <Choice label="In the order of" options={SORTS} value={sort} onChange={setSort} />
        </>
      )}
      <Row>
        <Button
          label="Save as CSV"
          onPress={() => saveFile('rulings.csv', new Blob([writeTable(ruled)], { type: 'text/csv' }))}
          testID="save-csv"
        />
        <Button
          label="Save as JSON"
          onPress={() => saveFile('rulings.json', new Blob([JSON.stringify(ruled, null, 1)], { type: 'application/json' }))}
          testID="save-json"
        />
        <Button label="Take in as stock" onPress={onStock} testID="open-stock" />
      </Row>
    </Card>
  );
}

/** Hundreds of packs at once: a CSV file or a pasted table in, a ruling for each line out. */
export function TableScreen() {
  const t = useTokens();
  const wide = useWide();
  const today = localDay(useZone(), new Date());
  const { state, run } = useRuling();
  const [text, setText] = useDraft('table', '');
  const [source, setSource] = useState('');
  const [stocking, setStocking] = useState(false);
  const [more, setMore] = useState<Readonly<Record<number, string>>>({});
  const [trouble, setTrouble] = useState('');
  const view = useShown(state.ruled);
  const { shown } = view;
  const [open, setOpen] = useState<Ruled | null>(null);
  const start = (from: string, means: Readonly<Record<number, string>>) => {
    setSource(from);
    setMore(means);
    setTrouble('');
    view.setFilter('all');
    run({ text: from, more: means, today });
  };
  const load = async () => {
    const file = await chooseFile('.csv,text/csv,text/plain,text/tab-separated-values');
    if (!file) return;
    if (file.size > MAX_TABLE.bytes) return setTrouble(`${file.name} is larger than 100 MB: cut it into parts`);
    try {
      start(decodeText(new Uint8Array(await file.arrayBuffer())), {});
    } catch (e) {
      setTrouble((e as Error).message);
    }
  };
  const busy = state.rows > 0 && state.ruled === null && state.trouble === '';
  const head = (
    <View style={{ gap: SPACE, paddingBottom: SPACE }}>
      <Heading level={1} size={26}>
        A table of packs
      </Heading>
      <Card title="From where" testID="card-source-table">
        <Words size={15}>
          A line of headings, then a line for each pack. An empty cell is not known; findings "none" means looked, nothing found.
        </Words>
        <Row>
          <Button label="Load a CSV file" tone="next" height={56} onPress={() => load()} testID="load-table" />
          <Button
            label="Rule on what is pasted"
            height={56}
            disabled={text.trim() === ''}
            onPress={() => start(text, {})}
            testID="rule-table"
          />
        </Row>
        <Field label="or paste the table here" value={text} onChange={setText} multiline testID="paste-table" />
        {[trouble, state.trouble].filter(Boolean).map((w) => (
          <Words key={w} bold>
            {w}
          </Words>
        ))}
        {busy ? <Words bold testID="progress">{`${state.done} of ${state.rows} rows`}</Words> : null}
      </Card>
      <Headings state={state} onMean={(i, name) => start(source, { ...more, [i]: name })} />
      {state.ruled ? <TotalsCard ruled={state.ruled} view={view} onStock={() => setStocking(true)} /> : null}
    </View>
  );
  const sheets = (
    <>
      {stocking ? <StockSheet lines={state.stock} onClose={() => setStocking(false)} /> : null}
      {open ? <RowSheet r={open} onClose={() => setOpen(null)} /> : null}
    </>
  );
  if (wide)
    return (
      <View style={{ flex: 1, flexDirection: 'row' }}>
        <Side width={400}>{head}</Side>
        <View style={{ flex: 1, padding: SPACE }}>
          <RulingsGrid rows={shown} onOpen={setOpen} />
        </View>
        {sheets}
      </View>
    );
  return (
    <>
      <FlatList
        data={shown}
        keyExtractor={(r) => String(r.line)}
        renderItem={({ item }) => <Line r={item} onOpen={() => setOpen(item)} />}
        ListHeaderComponent={head}
        initialNumToRender={20}
        style={{ flex: 1, backgroundColor: t.ground }}
        contentContainerStyle={{ padding: SPACE, width: '100%', maxWidth: 1000, alignSelf: 'center', paddingBottom: 90 }}
      />
      {sheets}
    </>
  );
}
