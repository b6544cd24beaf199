import { parseGaugeText, type ReportedBattery, reportText } from '@gavrel/core/job';
import { useState } from 'react';
import { View } from 'react-native';
import { chooseFile } from '../../device/picture';
import { draft } from '../../device/write';
import { Asked } from '../../ui/asked';
import { useDraft } from '../../state/use-draft';
import { Field } from '../../ui/field';
import { Row } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/words';
import { ReportKeys } from '../../entry/report-key';
import { Reported } from '../../entry/reported';
import { useRecord } from '../../entry/use-record';
import type { JobView, RuledPack } from './view';

/** Keeps it for one pack; what it would contradict is asked about first. */
function KeepFor({ p, b, v, onClose }: { p: RuledPack; b: ReportedBattery; v: JobView; onClose: () => void }) {
  const record = useRecord(p.facts.id);
  const [asked, setAsked] = useState('');
  const keep = () => {
    const said = draft('gauge-read', [`pack:${p.facts.id}`], b.gauge);
    const asks = record.asks([said]).join('\n');
    if (asks !== '' && asks !== asked) return setAsked(asks);
    return v.write([said], `gauge of ${p.facts.tag}`).then(onClose);
  };
  return (
    <View style={{ gap: 6, flexGrow: 1 }}>
      <Asked words={asked} />
      <Button
        label={asked ? `Keep it for ${p.facts.tag} all the same` : `Keep for ${p.facts.tag}`}
        tone="next"
        height={56}
        onPress={keep}
        testID={`gauge-keep-${p.facts.tag}`}
      />
    </View>
  );
}

function Battery({ b, v, onClose }: { b: ReportedBattery; v: JobView; onClose: () => void }) {
  const usable = Object.keys(b.gauge).length > 0;
  return (
    <View style={{ gap: 6 }}>
      <Reported b={b} />
      {v.inside.length === 0 ? <Words bold>Add its pack first: the reading belongs to a pack.</Words> : null}
      <Row>{usable ? v.inside.map((p) => <KeepFor key={p.facts.id} p={p} b={b} v={v} onClose={onClose} />) : null}</Row>
    </View>
  );
}

/** Bytes of a file that is opened: a report with years of usage is one or two million. */
const MOST_BYTES = 8_000_000;
/** Characters of a report that are read: some batteries are a few thousand. */
const MOST_TEXT = 20_000;

/** What an operating system reports, pasted or as a file, one battery after another. */
export function GaugePaste({ v }: { v: JobView }) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useDraft(`gauge report ${v.job.id}`, '');
  const [cut, setCut] = useState(false);
  const [long, setLong] = useState(false);
  let found: ReportedBattery[] = [];
  let trouble = '';
  if (text.trim() !== '') {
    try {
      found = parseGaugeText(text);
    } catch (e) {
      trouble = (e as Error).message;
    }
  }
  const load = async () => {
    const file = await chooseFile('text/*,.txt,.html,.htm,.xml,.plist');
    if (!file) return;
    setLong(file.size > MOST_BYTES);
    if (file.size > MOST_BYTES) return;
    const all = reportText(await file.text());
    setCut(all.length > MOST_TEXT);
    setText(all.slice(0, MOST_TEXT));
  };
  return (
    <>
      <Button label="Paste a gauge report" onPress={() => setOpen(true)} testID="gauge-paste" />
      {open ? (
        <Sheet title="Gauge report" onClose={() => setOpen(false)}>
          <Words size={15}>
            What the system prints of its batteries: uevent or ACPI text, the upower text, the battery report as HTML or XML, the
            registry listing or the system profile; or the registers of the pack, a line each.
          </Words>
          <Field label="Paste it here" value={text} onChange={setText} multiline testID="gauge-text" />
          <Button label="Open a file" onPress={() => load()} />
          <ReportKeys onText={setText} />
          {trouble ? <Words bold>{trouble}</Words> : null}
          {long ? (
            <Words bold live>{`This file is over ${MOST_BYTES / 1e6} MB: no battery report is. Nothing was read.`}</Words>
          ) : null}
          {cut ? (
            <Words
              bold
            >{`The file is longer than ${MOST_TEXT} characters: only its beginning was read. Look whether every battery is here.`}</Words>
          ) : null}
          {found.map((b, i) => (
            // Two may have the same name: they are told apart by their order.
            <Battery key={i} b={b} v={v} onClose={() => setOpen(false)} />
          ))}
          {found.length > 1 ? <Words size={15}>Two batteries are two packs: never average them.</Words> : null}
        </Sheet>
      ) : null}
    </>
  );
}
