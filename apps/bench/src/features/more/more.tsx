import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { useAppDispatch, useAppSelector } from '../../state';
import { finderOpened } from '../../state/view';
import { useWide } from '../../theme';
import { Button } from '../../ui/buttons';
import { Field } from '../../ui/field';
import { Card, Column, Side } from '../../ui/frame';
import { Heading, Words } from '../../ui/words';
import { PARTS, partsFor } from './parts';

/** The contents, group by group, with a search. */
function Contents({ at }: { at: string | undefined }) {
  const [search, setSearch] = useState('');
  const wide = useWide();
  const dispatch = useAppDispatch();
  const lead = useAppSelector((s) => s.session.session?.person.role === 'lead');
  const { unsent, refused } = useAppSelector((s) => s.logbook);
  const found = partsFor(lead, search);
  const told: Readonly<Record<string, string>> = {
    device: refused.length > 0 ? `${refused.length} came back` : unsent > 0 ? `${unsent} waiting` : '',
  };
  return (
    <>
      <View style={{ flexDirection: 'row', justifyContent: 'space-between', alignItems: 'center' }}>
        <Heading level={1} size={26}>
          More
        </Heading>
        {/* On a wide screen its key stands in the frame. */}
        {wide ? null : (
          <Button
            label="Find"
            hint="a tag, place, model, rule or screen"
            height={56}
            onPress={() => dispatch(finderOpened())}
            testID="more-find"
          />
        )}
      </View>
      <Field label="Search: PIN, theme, backup…" value={search} onChange={setSearch} testID="more-search" />
      {[...new Set(found.map((p) => p.group))].map((group) => (
        <Card key={group} title={group}>
          {found
            .filter((p) => p.group === group)
            .map((p) => (
              <Button
                key={p.id}
                label={[p.title, told[p.id]].filter(Boolean).join(' · ')}
                height={56}
                selected={p.id === at}
                style={{ alignItems: 'flex-start' }}
                onPress={() => router.push((p.to ?? `/more/${p.id}`) as '/more')}
                testID={`more-${p.id}`}
              />
            ))}
        </Card>
      ))}
      {found.length === 0 ? <Words>Nothing here is called that.</Words> : null}
    </>
  );
}

/** Everything that is not the work itself: a list, and the part that was opened. @param part its id; on a wide screen the first one stands open. */
export function More({ part }: { part?: string }) {
  const wide = useWide();
  const lead = useAppSelector((s) => s.session.session?.person.role === 'lead');
  const open = PARTS.find((p) => p.id === (part ?? (wide ? 'you' : undefined)) && (lead || !p.leadsOnly));
  const shown =
    part !== undefined && open?.show === undefined ? <Words>No such part, or not for your role.</Words> : open?.show?.();
  if (!wide)
    return (
      <Column>
        {part === undefined ? (
          <Contents at={undefined} />
        ) : (
          <>
            <Heading level={1} size={26}>
              {open?.title ?? 'More'}
            </Heading>
            {shown}
            <Button label="All of More" tone="quiet" onPress={() => router.navigate('/more')} testID="more-all" />
          </>
        )}
      </Column>
    );
  return (
    <View style={{ flex: 1, flexDirection: 'row' }}>
      <Side width={340}>
        <Contents at={open?.id} />
      </Side>
      <Column>
        <View style={{ gap: 12, maxWidth: 760, width: '100%' }}>{shown}</View>
      </Column>
    </View>
  );
}
