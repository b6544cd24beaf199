import { LONGEST } from '@gavrel/contract';
import { type Chemistry, isAfter, isPartialDay, type LabelBody, localDay, oddDate } from '@gavrel/core';
import { useState } from 'react';
import { useZone } from '../state/rulings';
import { Asked, KeepKey } from '../ui/asked';
import { Choice } from '../ui/buttons';
import { useDraft } from '../state/use-draft';
import { Field } from '../ui/field';
import { LeftEmpty } from '../ui/left-empty';
import { Sheet } from '../ui/sheet';
import { Words } from '../ui/words';
import type { LabelSheetProps } from './card';
import { labelDrafts } from './label-draft';
import { ShownHere } from './shown-here';
import { useRecord } from './use-record';

/** Why a date of manufacture cannot be kept; null when it can. */
function dateTrouble(madeOn: string, today: string): string | null {
  if (madeOn === '') return null;
  if (!isPartialDay(madeOn)) return `${madeOn} is no day of the calendar: write YYYY, YYYY-MM or YYYY-MM-DD.`;
  return isAfter(madeOn, today) ? `${madeOn} lies in the future: read the date again.` : null;
}

/** Type code, dates and the other words of a label. */
export function WordsSheet({ facts, label, onKeep, onClose }: LabelSheetProps) {
  const onRecord = {
    typeCode: label.typeCode ?? '',
    designation: label.designation ?? '',
    madeOn: label.madeOn ?? '',
    chemistry: label.chemistry ?? (null as Chemistry | null),
    marked: label.energyMarked === undefined ? null : label.energyMarked ? ('yes' as const) : ('no' as const),
  };
  // Only what was touched is a draft: what others read meanwhile shows in the rest.
  const [touched, setTouched, done] = useDraft<Partial<typeof onRecord>>(`label ${facts.id}`, {});
  const { typeCode, designation, madeOn, chemistry, marked } = { ...onRecord, ...touched };
  const set = (part: Partial<typeof onRecord>) => setTouched((f) => ({ ...f, ...part }));
  const [asked, setAsked] = useState('');
  const record = useRecord(facts.id);
  const today = localDay(useZone(), new Date());
  const badDate = dateTrouble(madeOn, today);
  const emptied = [
    typeCode.trim() === '' && label.typeCode && `the type code stays ${label.typeCode}`,
    madeOn === '' && label.madeOn && `the date stays ${label.madeOn}`,
    designation.trim() === '' && label.designation && `the designation stays ${label.designation}`,
  ];
  const keep = async () => {
    if (badDate) return;
    const all: Partial<LabelBody> = {
      ...(typeCode.trim() && { typeCode: typeCode.trim() }),
      ...(designation.trim() && { designation: designation.trim() }),
      ...(madeOn && { madeOn }),
      ...(chemistry && { chemistry }),
      ...(marked && { energyMarked: marked === 'yes' }),
    };
    const drafts = labelDrafts(facts, label, all);
    const odd = madeOn === '' || madeOn === label.madeOn ? null : oddDate(madeOn);
    const asks = [...(odd ? [odd] : []), ...record.asks(drafts)].join('\n');
    if (asks !== '' && asks !== asked) return setAsked(asks);
    for (const d of drafts) await onKeep(d, d.kind === 'corrected' ? 'label corrected' : 'label');
    done();
    onClose();
  };
  return (
    <Sheet
      title="Label in words"
      onClose={onClose}
      footer={<KeepKey asked={asked} disabled={badDate !== null} onKeep={keep} testID="keep-words" />}
    >
      <ShownHere kind="label-read" />
      <Field
        label="Type code"
        value={typeCode}
        onChange={(v) => set({ typeCode: v })}
        longest={LONGEST.typeCode}
        testID="type-code"
      />
      <Words size={15} soft>
        Chemistry
      </Words>
      <Choice
        label="Chemistry"
        options={['li-ion', 'li-metal', 'ni-mh', 'na-ion'] as const}
        value={chemistry}
        onChange={(v) => set({ chemistry: v })}
      />
      <Words size={15} soft>
        Watt-hours printed on the case?
      </Words>
      <Choice
        label="Watt-hours printed on the case"
        options={['yes', 'no'] as const}
        value={marked}
        onChange={(v) => set({ marked: v })}
      />
      <Field label="Made on (YYYY, YYYY-MM or YYYY-MM-DD)" value={madeOn} onChange={(v) => set({ madeOn: v })} testID="made-on" />
      {badDate ? <Words bold>{badDate}</Words> : null}
      <LeftEmpty stays={emptied} how=": take it back in the history" />
      <Asked words={asked} />
      <Field
        label="Cell designation, as 3ICP5/57/101"
        value={designation}
        onChange={(v) => set({ designation: v })}
        longest={LONGEST.designation}
        testID="designation"
      />
    </Sheet>
  );
}
