import { useState } from 'react';
import { Button, Choice } from '../../ui/buttons';
import { Card } from '../../ui/frame';
import { Words } from '../../ui/words';

const SURE = ['50', '70', '90', '99'] as const;

/** The bet, before the ruling is shown. @param options what the ruling may be. */
export function BetCard<T extends string>({ options, onBet }: { options: readonly T[]; onBet: (said: T, sure: number) => void }) {
  const [said, setSaid] = useState<T | null>(null);
  const [sure, setSure] = useState<(typeof SURE)[number] | null>(null);
  const words = Object.fromEntries(SURE.map((s) => [s, `${s} %`]));
  return (
    <Card title="What will the ruling be?">
      <Choice label="The ruling" options={options} value={said} onChange={setSaid} height={56} />
      <Words>How sure are you?</Words>
      <Choice label="How sure" options={SURE} value={sure} onChange={setSure} words={words} height={56} />
      <Button
        label="Show the ruling"
        tone="next"
        height={64}
        disabled={said === null || sure === null}
        onPress={() => said !== null && sure !== null && onBet(said, Number(sure) / 100)}
        testID="practice-bet"
      />
    </Card>
  );
}
