import { LONGEST } from '@gavrel/contract';
import { View } from 'react-native';
import { useWords } from '../../entry/use-words';
import { Field } from '../../ui/field';

const FIELDS = [
  ['complaint', 'What is wrong'],
  ['ownerSaw', 'What the owner saw'],
  ['agreed', 'What was agreed'],
] as const;
type OwnerField = (typeof FIELDS)[number][0];

/** What the owner tells, in words; kept when a field is left. */
export function OwnerWords({
  job,
  complaint,
  saw,
  agreed,
  onSay,
}: {
  job: string;
  complaint: string;
  saw: string;
  agreed: string;
  onSay: (f: OwnerField, v: string) => Promise<unknown>;
}) {
  const words = useWords(job, { complaint, ownerSaw: saw, agreed }, LONGEST.story, onSay);
  return (
    <View style={{ gap: 8 }}>
      {FIELDS.map(([f, label]) => (
        <Field key={f} label={label} {...words(f)} multiline testID={`text-${f}`} />
      ))}
    </View>
  );
}
