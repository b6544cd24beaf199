import type { Writing } from '@gavrel/core/practice';
import { Words } from '../../ui/words';

/** What was written down otherwise than it was, and what was there and not written. */
export function WritingLines({ writing }: { writing: Writing }) {
  return (
    <>
      {writing.wrong.map((w) => (
        <Words key={w} bold testID="written-wrong">{`Written: ${w}.`}</Words>
      ))}
      {writing.left.length > 0 ? <Words testID="left-out">{`Not written: ${writing.left.join('; ')}.`}</Words> : null}
    </>
  );
}
