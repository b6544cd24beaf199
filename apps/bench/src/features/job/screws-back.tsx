import { closeRefit, excessTurns, groupName, type ScrewCount, tipPressure } from '@gavrel/core';
import { View } from 'react-native';
import { useTokens } from '../../theme';
import { Button } from '../../ui/buttons';
import { Card } from '../../ui/frame';
import { Figures, Words } from '../../ui/words';
import { Caution } from '../../entry/ask';
import type { Refit } from './use-refit';

/** What a too-long screw does, in words. */
function TooLong({ out, back }: { out: readonly ScrewCount[]; back: readonly ScrewCount[] }) {
  const refit = closeRefit(out, back);
  return (
    <>
      {refit.groups
        .filter((g) => g.back !== g.out)
        .map((g) => (
          <Words key={g.name} bold>
            {g.back < g.out
              ? `${g.out - g.back} × ${g.name} left over or missing`
              : `${g.back - g.out} × ${g.name} more than came out`}
          </Words>
        ))}
      {refit.tooLong.map((x) => (
        <Caution key={`${x.length}-${x.hole}`}>
          {`A ${x.length} mm screw sits in a ${x.hole} mm hole: it presses with about ${Math.round(x.force / 10) * 10} N (${Math.round(tipPressure(x.thread, x.force))} MPa), ${excessTurns(x.thread, x.length - x.hole).toFixed(1)} turns too deep. Take it out before power is on; look at the pack beneath.`}
        </Caution>
      ))}
    </>
  );
}

/** One length group: how many of it are back. */
function GroupBack({ g, refit }: { g: ScrewCount; refit: Refit }) {
  const t = useTokens();
  const name = groupName(g);
  const n = refit.counts[name] ?? 0;
  return (
    <View
      style={{
        flexDirection: 'row',
        alignItems: 'center',
        gap: 8,
        borderLeftWidth: 6,
        borderColor: n === g.count ? 'transparent' : t.ink,
        paddingLeft: 8,
      }}
    >
      <View style={{ flex: 1 }}>
        <Words>{name}</Words>
        <Figures bold>{`${n} of ${g.count}`}</Figures>
      </View>
      <Button
        label="−"
        hint={`one ${name} fewer`}
        sign
        height={56}
        onPress={() => refit.count(g, n - 1)}
        testID={`less-${name}`}
      />
      <Button
        label="+"
        hint={`one more ${name}`}
        sign
        height={56}
        onPress={() => refit.count(g, n + 1)}
        testID={`more-${name}`}
      />
      <Button label="all" hint={name} height={56} selected={n === g.count} onPress={() => refit.count(g, g.count)} />
    </View>
  );
}

/** The screws back in, each length group closed; what a screw in the wrong hole would do. */
export function ScrewsBack({ refit, mapped }: { refit: Refit; mapped: boolean }) {
  const { groups, back, closed, total } = refit;
  return (
    <Card
      title="Screws back"
      testID="card-back"
      right={<Words bold>{groups.length === 0 ? 'no map' : closed ? 'closes' : 'open'}</Words>}
    >
      {mapped ? null : <Words>No screw was mapped: count cannot be checked.</Words>}
      {groups.map((g) => (
        <GroupBack key={groupName(g)} g={g} refit={refit} />
      ))}
      {groups.length > 0 ? (
        <Button label={`All ${total} back, length by length`} height={56} onPress={refit.countAll} testID="all-back" />
      ) : null}
      {refit.any && !closed ? <TooLong out={groups} back={back} /> : null}
      <Words size={15} soft>
        By hand first, backwards until the thread drops in, stop at the first resistance. Captive ones last a turn each.
      </Words>
    </Card>
  );
}
