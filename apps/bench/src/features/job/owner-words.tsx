import { LONGEST } from '@gavrel/contract';
import { View } from 'react-native';
import { useDraft } from '../../state/use-draft';
import { Button } from '../../ui/buttons';
import { Field } from '../../ui/field';

/** What the owner tells, in words; kept as a draft until the words are kept. */
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
  onSay: (f: 'complaint' | 'ownerSaw' | 'agreed', v: string) => Promise<unknown>;
}) {
  const before = { complaint, ownerSaw: saw, agreed };
  const [touched, setTouched, done] = useDraft<Partial<typeof before>>(`words ${job}`, {});
  const text = { ...before, ...touched };
  const fields = [
    ['complaint', 'What is wrong'],
    ['ownerSaw', 'What the owner saw'],
    ['agreed', 'What was agreed'],
  ] as const;
  const changed = fields.filter(([f]) => text[f].trim() !== '' && text[f].trim() !== before[f]);
  return (
    <View style={{ gap: 8 }}>
      {fields.map(([f, label]) => (
        <Field
          key={f}
          label={label}
          value={text[f]}
          onChange={(x) => setTouched((s) => ({ ...s, [f]: x }))}
          longest={LONGEST.story}
          multiline
          testID={`text-${f}`}
        />
      ))}
      {changed.length > 0 ? (
        <Button
          label="Keep the words"
          tone="next"
          height={56}
          disabled={changed.some(([f]) => text[f].length > LONGEST.story)}
          onPress={() => void Promise.all(changed.map(([f]) => onSay(f, text[f].trim()))).then(done, () => undefined)}
          testID="keep-texts"
        />
      ) : null}
    </View>
  );
}
