import { isDay, localDay, type NoticeFacts, type NoticeRange, type PackFacts, type Subject } from '@gavrel/core';
import { indexNotice, type LineProblem, type NoticeHit, noticeHit, readNotice } from '@gavrel/core/dispatch';
import { router } from 'expo-router';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { v4 } from 'uuid';
import { chooseFile } from '../../device/picture';
import { draft } from '../../device/write';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { useMay } from '../../state/may';
import { inNaturalOrder } from '../../state/natural';
import { useZone } from '../../state/rulings';
import { useDraft } from '../../state/use-draft';
import { Asked } from '../../ui/asked';
import { Button } from '../../ui/buttons';
import { Field } from '../../ui/field';
import { Card, Column, Row } from '../../ui/frame';
import { Sheet } from '../../ui/sheet';
import { Heading, Words } from '../../ui/words';
import { packsWord } from './words';
import { dayWords } from '../../ui/say';

/** Lines or packs named before the rest is only counted. */
const SHOWN = 12;

export const GROUPS = ['here', 'in a job', 'in a machine', 'gone'] as const;
type Group = (typeof GROUPS)[number];

export interface Affected {
  readonly pack: PackFacts;
  readonly hit: NoticeHit;
  readonly group: Group;
  /** The recall is on its record already. */
  readonly found: boolean;
}

const groupOf = (f: PackFacts, openJobs: ReadonlySet<string>): Group =>
  f.left !== null ? 'gone' : f.use === 'fitted' ? 'in a machine' : f.job !== null && openJobs.has(f.job) ? 'in a job' : 'here';

/** Packs that a notice concerns, the sure ones first. */
export function affectedBy(
  notice: Pick<NoticeFacts, 'ranges'>,
  packs: readonly PackFacts[],
  openJobs: ReadonlySet<string>,
): Affected[] {
  const index = indexNotice(notice);
  return packs
    .flatMap((pack): Affected[] => {
      const hit = noticeHit(index, pack);
      if (!hit) return [];
      const found = pack.findings.some((x) => x.body.code === 'safety-recall');
      return [{ pack, hit, group: groupOf(pack, openJobs), found }];
    })
    .sort((a, b) => Number(b.hit.sure) - Number(a.hit.sure) || (a.pack.tag < b.pack.tag ? -1 : 1));
}

/** Packs that are not gone and whose type code nobody read: whether a notice concerns them is not known. */
export const withoutTypeCode = (packs: readonly PackFacts[]): PackFacts[] =>
  packs
    .filter((f) => f.left === null && f.labels.every((l) => l.body.typeCode === undefined))
    .sort((a, b) => inNaturalOrder(a.tag, b.tag));

/** What a machine's owner is told. */
const ownerWords = (n: NoticeFacts): string =>
  `A battery of your machine is in a safety notice of its maker (${n.title}, ${dayWords(n.on)}). Please switch the machine off, do not charge it, and call us. The maker says: ${n.says}`;

function UnreadCard({ packs }: { packs: readonly PackFacts[] }) {
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
function NoticeSheet({
  notice,
  affected,
  unread,
  onClose,
}: {
  notice: NoticeFacts;
  affected: readonly Affected[];
  unread: readonly PackFacts[];
  onClose: () => void;
}) {
  const actions = useActions();
  const mayFind = useMay('finding-recorded');
  const mayFile = useMay('notice-filed');
  const owed = affected.filter((a) => a.hit.sure && !a.found);
  const record = () =>
    actions.write(
      owed.map((a) => draft('finding-recorded', [`pack:${a.pack.id}`], { code: 'safety-recall', note: notice.title })),
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
      {GROUPS.map((g) => {
        const of = affected.filter((a) => a.group === g);
        return of.length === 0 ? null : (
          <Card key={g} title={`${packsWord(of.length)} ${g}`} testID={`affected-${g}`}>
            {of.slice(0, 100).map((a) => (
              <Row key={a.pack.id} style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
                <Button label={a.pack.tag} hint="open the pack" onPress={() => router.push(`/pack/${a.pack.id}`)} />
                <Words size={15} bold={!a.hit.sure} style={{ flexShrink: 1 }}>
                  {a.found ? 'recall recorded' : a.hit.sure ? 'concerned' : `perhaps: ${a.hit.why.join('; ')}`}
                </Words>
              </Row>
            ))}
          </Card>
        );
      })}
      {affected.length === 0 ? (
        <Words>
          {unread.length === 0 ? 'No pack of this device is concerned.' : 'No pack whose type code was read is concerned.'}
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
  const list = useMemo(() => {
    const openJobs = new Set(Object.values(jobs).flatMap((j) => (j.closedAt === null ? [j.id] : [])));
    const all = Object.values(packs);
    return Object.values(notices)
      .filter((n) => n.retired !== true)
      .sort((a, b) => (a.on < b.on ? 1 : -1))
      .map((notice) => ({ notice, affected: affectedBy(notice, all, openJobs) }));
  }, [notices, packs, jobs]);
  const shown = list.find((l) => l.notice.id === open);
  const unread = useMemo(() => withoutTypeCode(Object.values(packs)), [packs]);
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
                <Words bold={owed > 0}>{packsWord(affected.length)}</Words>
              </View>
              <View style={{ flexDirection: 'row', justifyContent: 'space-between', gap: 8 }}>
                <Words size={15} soft>
                  {notice.on}
                </Words>
                <Words size={15}>{owed > 0 ? `${owed} without the recall on record` : ''}</Words>
              </View>
            </Button>
          );
        })}
        {list.length === 0 ? <Words>No notice is on file.</Words> : null}
        {may ? (
          <Button label="File a notice" tone="next" height={56} onPress={() => setFiling(true)} testID="file-notice" />
        ) : null}
      </Card>
      {filing ? <FileSheet today={today} onClose={() => setFiling(false)} /> : null}
      {shown ? <NoticeSheet {...shown} unread={unread} onClose={() => setOpen(null)} /> : null}
    </Column>
  );
}
