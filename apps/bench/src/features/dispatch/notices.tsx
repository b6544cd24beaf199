import { isDay, localDay, type NoticeFacts, type NoticeRange, type Subject } from '@gavrel/core';
import { type LineProblem, NOTICE_GROUPS, type NoticedPack, readNotice } from '@gavrel/core/dispatch';
import { router } from 'expo-router';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { v4 } from 'uuid';
import { chooseFile } from '../../device/picture';
import { draft } from '../../device/write';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { useMay } from '../../state/may';
import { useZone } from '../../state/rulings';
import { useDraft } from '../../state/use-draft';
import { Asked } from '../../ui/asked';
import { Button } from '../../ui/buttons';
import { Field } from '../../ui/field';
import { Card, Column, Row } from '../../ui/frame';
import { Sheet } from '../../ui/sheet';
import { Heading, Words } from '../../ui/words';
import { noticedHere, openOf, useNoticed } from './noticed';
import { packsWord } from './words';
import { dayWords } from '../../ui/say';

/** Lines or packs named before the rest is only counted. */
const SHOWN = 12;

/** What a machine's owner is told. */
const ownerWords = (n: NoticeFacts): string =>
  `A battery of your machine is in a safety notice of its maker (${n.title}, ${dayWords(n.on)}). Please switch the machine off, do not charge it, and call us. The maker says: ${n.says}`;

function UnreadCard({ packs }: { packs: readonly NoticedPack[] }) {
  return (
    <Card title={`${packsWord(packs.length)} not known: no type code`} testID="affected-unread">
      <Words>Read the label of each: until then nobody knows whether it is concerned.</Words>
      <Row>
        {packs.slice(0, SHOWN).map((f) => (
          <Button key={f.id} label={f.tag} hint="open the pack" onPress={() => router.push(`/pack/${f.id}`)} />
        ))}
      </Row>
      {packs.length > SHOWN ? <Words>{`and ${packs.length - SHOWN} more`}</Words> : null}
    </Card>
  );
}

/** One notice: whom it concerns, and the finding that follows. */
function NoticeSheet({ notice, onClose }: { notice: NoticeFacts; onClose: () => void }) {
  const actions = useActions();
  const mayFind = useMay('finding-recorded');
  const mayFile = useMay('notice-filed');
  const { packs, said } = useNoticed(notice);
  const affected = packs.filter((p) => p.hit !== null);
  const unread = packs.filter((p) => p.hit === null);
  const owed = affected.filter((a) => a.hit?.sure && !a.found);
  const record = () =>
    actions.write(
      owed.map((a) => draft('finding-recorded', [`pack:${a.id}`], { code: 'safety-recall', note: notice.title })),
      `recall on ${packsWord(owed.length)}`,
    );
  const outside = affected.filter((a) => a.group === 'gone' || a.group === 'in a machine');
  const { id: _id, at: _at, ...body } = notice;
  return (
    <Sheet
      title={notice.title}
      onClose={onClose}
      footer={
        mayFind && owed.length > 0 ? (
          <Button
            label={`Record the recall on ${packsWord(owed.length)}`}
            tone="next"
            height={64}
            onPress={() => record()}
            testID="record-recall"
          />
        ) : undefined
      }
    >
      <Words bold>{notice.says}</Words>
      <Asked words={said} />
      {NOTICE_GROUPS.map((g) => {
        const of = affected.filter((a) => a.group === g);
        return of.length === 0 ? null : (
          <Card key={g} title={`${packsWord(of.length)} ${g}`} testID={`affected-${g}`}>
            {of.slice(0, 100).map((a) => (
              <Row key={a.id} style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
                <Button label={a.tag} hint="open the pack" onPress={() => router.push(`/pack/${a.id}`)} />
                <Words size={15} bold={!a.hit?.sure} style={{ flexShrink: 1 }}>
                  {a.found ? 'recall recorded' : a.hit?.sure ? 'concerned' : `perhaps: ${a.hit?.why.join('; ')}`}
                </Words>
              </Row>
            ))}
            {of.length > 100 ? <Words>{`and ${of.length - 100} more`}</Words> : null}
          </Card>
        );
      })}
      {affected.length === 0 ? (
        <Words>
          {said !== '' || unread.length > 0 ? 'No pack whose type code was read here is concerned.' : 'No pack is concerned.'}
        </Words>
      ) : null}
      {unread.length > 0 ? <UnreadCard packs={unread} /> : null}
      {outside.length > 0 ? (
        <Card title="For their owners">
          <Words>{ownerWords(notice)}</Words>
        </Card>
      ) : null}
      {mayFile ? (
        <Button
          label="It does not hold any more"
          tone="quiet"
          onPress={() =>
            actions
              .write([draft('notice-filed', [`notice:${notice.id}` as Subject], { ...body, retired: true })], 'notice ended')
              .then(onClose)
          }
        />
      ) : null}
    </Sheet>
  );
}

/** Ranges of one entry; a longer list is several notices of one name. */
const MOST = 2000;

/** A notice comes in: words, day, and a list of type codes pasted or read from a file. Faulty lines are named, nothing is lost. */
function FileSheet({ today, onClose }: { today: string; onClose: () => void }) {
  const actions = useActions();
  const [form, setForm, done] = useDraft('notice', { title: '', says: '', on: today, list: '' });
  const [trouble, setTrouble] = useState('');
  // A file is read again from where it lies: it is too long to be kept with every letter of the title.
  const [file, setFile] = useState<{ readonly name: string; readonly text: string } | null>(null);
  const list = file?.text ?? form.list;
  const read: { ranges: readonly NoticeRange[]; problems: readonly LineProblem[] } = useMemo(
    () => (list.trim() === '' ? { ranges: [], problems: [] } : readNotice(list)),
    [list],
  );
  const set = (k: keyof typeof form) => (v: string) => setForm((f) => ({ ...f, [k]: v }));
  const day = form.on.trim();
  const ready = form.title.trim() !== '' && form.says.trim() !== '' && isDay(day) && read.ranges.length > 0;
  const open = async () => {
    setTrouble('');
    const chosen = await chooseFile('.csv,.json,text/csv,application/json');
    if (!chosen) return;
    if (chosen.size > 8_000_000) return setTrouble('Larger than 8 MB: cut it into parts.');
    setFile({ name: chosen.name, text: await chosen.text() });
  };
  const keep = async () => {
    const parts: NoticeRange[][] = [];
    for (let i = 0; i < read.ranges.length; i += MOST) parts.push(read.ranges.slice(i, i + MOST));
    await actions.write(
      parts.map((ranges, i) =>
        draft('notice-filed', [`notice:${v4()}` as Subject], {
          title: parts.length === 1 ? form.title.trim() : `${form.title.trim().slice(0, 70)}, part ${i + 1}`,
          says: form.says.trim(),
          on: day,
          ranges,
        }),
      ),
      'notice filed',
    );
    done();
    onClose();
  };
  return (
    <Sheet
      title="A maker’s notice"
      onClose={onClose}
      footer={<Button label="Keep" tone="next" height={64} disabled={!ready} onPress={() => keep()} testID="keep-notice" />}
    >
      <Field label="Title" value={form.title} onChange={set('title')} longest={80} autoFocus testID="notice-title" />
      <Field label="What the maker says" value={form.says} onChange={set('says')} longest={4000} multiline testID="notice-says" />
      <Field label="Day of the notice, YYYY-MM-DD" value={form.on} onChange={set('on')} testID="notice-on" />
      {isDay(day) ? null : <Words bold>Write the day as YYYY-MM-DD.</Words>}
      {file ? (
        <Row style={{ justifyContent: 'space-between' }}>
          <Words bold>{file.name}</Words>
          <Button label="Without this file" onPress={() => setFile(null)} />
        </Row>
      ) : (
        <Field
          label="Type code, serial from, serial to, made from, made to"
          value={form.list}
          onChange={set('list')}
          multiline
          testID="notice-list"
        />
      )}
      <Button label="From a file" hint="CSV or JSON" onPress={() => open()} />
      <Asked words={trouble} />
      {read.ranges.length > 0 || read.problems.length > 0 ? (
        <Words bold testID="notice-read">
          {`${read.ranges.length} read${read.problems.length > 0 ? `, ${read.problems.length} not` : ''}`}
        </Words>
      ) : null}
      {read.problems.slice(0, SHOWN).map((p) => (
        <Words key={`${p.line} ${p.words}`}>{`line ${p.line}: ${p.words}`}</Words>
      ))}
      {read.problems.length > SHOWN ? <Words>{`and ${read.problems.length - SHOWN} more lines`}</Words> : null}
    </Sheet>
  );
}

/** Recalls and safety notices of makers, held against every pack. */
export function Notices() {
  const { notices, packs, jobs } = useAppSelector((s) => s.logbook);
  const may = useMay('notice-filed');
  const zone = useZone();
  const today = localDay(zone, new Date());
  const [filing, setFiling] = useState(false);
  const [open, setOpen] = useState<string | null>(null);
  const partly = useAppSelector((s) => s.logbook.holds !== null);
  const list = useMemo(() => {
    const [open, all] = [openOf(jobs), Object.values(packs)];
    return Object.values(notices)
      .filter((n) => n.retired !== true)
      .sort((a, b) => (a.on < b.on ? 1 : -1))
      .map((notice) => ({ notice, affected: noticedHere(notice, all, open).filter((p) => p.hit !== null) }));
  }, [notices, packs, jobs]);
  const shown = list.find((l) => l.notice.id === open);
  return (
    <Column style={{ width: '100%', maxWidth: 900, alignSelf: 'center' }}>
      <Heading level={1} size={26}>
        Notices of makers
      </Heading>
      <Card>
        {list.map(({ notice, affected }) => {
          const owed = affected.filter((a) => !a.found).length;
          return (
            <Button
              key={notice.id}
              label={notice.title}
              height={60}
              onPress={() => setOpen(notice.id)}
              style={{ alignItems: 'stretch', borderLeftWidth: owed > 0 ? 6 : 1 }}
              testID={`notice-${notice.title}`}
            >
              <View style={{ flexDirection: 'row', justifyContent: 'space-between', gap: 8 }}>
                <Words bold style={{ flexShrink: 1 }}>
                  {notice.title}
                </Words>
                <Words bold={owed > 0} style={{ flexShrink: 0 }}>
                  {packsWord(affected.length)}
                </Words>
              </View>
              <View style={{ flexDirection: 'row', justifyContent: 'space-between', gap: 8 }}>
                <Words size={15} soft>
                  {dayWords(notice.on)}
                </Words>
                <Words size={15}>{owed > 0 ? `recall not recorded: ${owed}` : ''}</Words>
              </View>
            </Button>
          );
        })}
        {list.length === 0 ? <Words>No notice is on file.</Words> : null}
        {partly && list.length > 0 ? (
          <Words>Counted on this device. An open notice asks the server for every other pack.</Words>
        ) : null}
        {may ? (
          <Button label="File a notice" tone="next" height={56} onPress={() => setFiling(true)} testID="file-notice" />
        ) : null}
      </Card>
      {filing ? <FileSheet today={today} onClose={() => setFiling(false)} /> : null}
      {shown ? <NoticeSheet notice={shown.notice} onClose={() => setOpen(null)} /> : null}
    </Column>
  );
}
