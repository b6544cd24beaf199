import type { MeasuredLogBody, PackFacts, Statement } from '@gavrel/core';
import { type LogResult, logBody, logTrend } from '@gavrel/core/discharge';
import { format, parseISO } from 'date-fns';
import { useState } from 'react';
import { View } from 'react-native';
import { packed, saveKept } from '../../device/log-file';
import { sha256Of } from '../../device/picture';
import { draft } from '../../device/write';
import { useActions } from '../../state/context';
import { Button } from '../../ui/buttons';
import { Row } from '../../ui/frame';
import { agoWords } from '../../ui/say';
import { Trend } from '../../ui/trend';
import { Figures, Words } from '../../ui/words';

/** What came of keeping a file. */
interface Kept {
  readonly file: File;
  readonly words: string;
  /** Of the file, once it is on the record. */
  readonly sha256?: string;
  readonly failed?: true;
}

/** Puts what was measured on the record of the pack, with the file it was measured from. The same file is kept once. */
export function KeepLog({ facts, file, result }: { facts: PackFacts; file: File; result: LogResult }) {
  const actions = useActions();
  const [kept, setKept] = useState<Kept | null>(null);
  const mine = kept?.file === file ? kept : null;
  // An undo, or somebody who took it back: it is not there any more.
  const gone = mine?.sha256 !== undefined && !facts.logs?.some((l) => l.body.sha256 === mine.sha256);
  const keep = async (): Promise<Kept> => {
    const sha256 = await sha256Of(file);
    const before = facts.logs?.find((l) => l.body.sha256 === sha256);
    if (before) return { file, sha256, words: `This file is on its record already, ${agoWords(before.at)}.` };
    const small = await packed(file);
    if (small) await actions.keepFile(small);
    const said = logBody(result, sha256, small && { sha256: small.sha256, bytes: small.blob.size });
    await actions.write([draft('log-measured', [`pack:${facts.id}`], said)], `discharge log of ${facts.tag}`);
    const without = 'On its record; the file is too large to keep, only its hash is.';
    return { file, sha256, words: small ? 'On its record, with the file.' : without };
  };
  const press = () => {
    setKept({ file, words: 'Keeping it' });
    keep().then(setKept, (e: Error) => setKept({ file, words: `Not kept: ${e.message}`, failed: true }));
  };
  return (
    <>
      {mine === null || mine.failed || gone ? (
        <Button label="Keep on its record" tone="next" height={56} onPress={press} testID="keep-log" />
      ) : null}
      {mine === null || gone ? null : (
        <Words bold live testID="log-kept">
          {mine.words}
        </Words>
      )}
    </>
  );
}

function Line({ log, tag }: { log: Statement<MeasuredLogBody>; tag: string }) {
  const [trouble, setTrouble] = useState('');
  const { charge, health, resistance, file } = log.body;
  const when = log.body.to ?? log.at;
  const save = () => void saveKept(`${tag}-${when.slice(0, 10)}.csv.gz`, file!.sha256).catch((e: Error) => setTrouble(e.message));
  return (
    <View style={{ gap: 2 }}>
      <Row style={{ justifyContent: 'space-between' }}>
        <View style={{ flex: 1, minWidth: 180 }}>
          <Figures bold>{`${charge.lo.toFixed(3)} to ${charge.hi.toFixed(3)} Ah`}</Figures>
          <Words size={15} soft>
            {[
              format(parseISO(when), 'd MMM yyyy'),
              health && `${health.lo.toFixed(0)} to ${health.hi.toFixed(0)} % of the label`,
              resistance && `${resistance.lo.toFixed(3)} to ${resistance.hi.toFixed(3)} Ω`,
              log.body.gaps > 0 && 'with gaps',
            ]
              .filter(Boolean)
              .join(' · ')}
          </Words>
        </View>
        {file ? <Button label="The file" hint={`log of ${when.slice(0, 10)}`} tone="quiet" onPress={save} /> : null}
      </Row>
      {trouble ? <Words bold>{trouble}</Words> : null}
    </View>
  );
}

/** Logs on the record of a pack, the newest first, and how its charge and resistance went over the years. */
export function LogRecord({ facts }: { facts: PackFacts }) {
  const logs = facts.logs ?? [];
  const when = (l: (typeof logs)[number]) => l.body.to ?? l.at;
  const newest = [...logs].sort((a, b) => (when(a) < when(b) ? 1 : -1));
  return (
    <View style={{ gap: 8 }} testID="log-record">
      {logs.length > 0 ? <Words bold>On its record</Words> : null}
      {newest.map((l) => (
        <Line key={l.id} log={l} tag={facts.tag} />
      ))}
      <Trend
        what="charge by its logs"
        points={logTrend(logs, 'charge')}
        level={null}
        unit="Ah"
        decimals={2}
        words="Charge by its logs; the truth lies within the thin lines. Like compares with like only: full to empty, at one current."
      />
      <Trend
        what="resistance by its logs"
        points={logTrend(logs, 'resistance')}
        level={null}
        unit="Ω"
        decimals={3}
        words="Resistance by its logs; the truth lies within the thin lines."
      />
    </View>
  );
}
