import { type Connector, CONNECTORS, type IsolatedBody, liveSources, RELEASE, type Source, sourcesOf } from '@gavrel/core';
import { View } from 'react-native';
import { useTokens } from '../../theme';
import { Card, Row } from '../../ui/frame';
import { Choice, Button } from '../../ui/buttons';
import { Words } from '../../ui/words';
import { Ask, Caution } from '../../entry/ask';
import { ConnectorDrawing } from './connector-drawing';
import { SheetOffer } from './sheet-offer';
import type { JobView } from './view';

const nameOf = (s: Source) => (s.what === 'pack' ? `pack ${s.tag ?? ''}` : s.what);
const same = (a: Source, b: Source) => a.what === b.what && (a.tag ?? '') === (b.tag ?? '');

/** Every source that keeps the machine live, each said off by hand. Never taken from a sheet. */
export function SourcesCard({ v }: { v: JobView }) {
  const t = useTokens();
  const facts = v.inside.map((p) => p.facts);
  const all = sourcesOf(facts);
  const live = liveSources(v.job, facts);
  const said = v.job.isolated?.body.sources ?? [];
  const say = (s: Source, state: Source['state']) => v.say('isolated', { sources: [{ ...s, state }] }, `${nameOf(s)}: ${state}`);
  return (
    <Card
      title="Live sources"
      testID="card-sources"
      right={<Words bold>{live.length === 0 ? 'all off' : `${live.length} live`}</Words>}
    >
      {all.map((s) => {
        const now = said.find((x) => same(x, s));
        return (
          <View
            key={nameOf(s)}
            style={{
              flexDirection: 'row',
              alignItems: 'center',
              gap: 8,
              borderLeftWidth: 6,
              borderColor: live.some((l) => same(l, s)) ? t.ink : 'transparent',
              paddingLeft: 8,
            }}
          >
            <Words style={{ flex: 1 }} bold={live.some((l) => same(l, s))}>
              {nameOf(s)}
            </Words>
            <Choice
              label={nameOf(s)}
              options={s.what === 'pack' ? (['off', 'live'] as const) : (['off', 'none', 'live'] as const)}
              words={{ none: 'not there' }}
              value={now?.state ?? null}
              onChange={(state) => say(s, state as Source['state'])}
            />
          </View>
        );
      })}
      {live.length > 1 ? (
        <Button
          label={`Checked all ${live.length}: off, or not there`}
          height={56}
          onPress={() => v.say('isolated', { sources: live.map((s) => ({ ...s, state: 'off' as const })) }, 'nothing is live')}
          testID="all-off"
        />
      ) : null}
      {live.length > 0 ? <Caution>Something may be live: no metal tool and no probe inside yet.</Caution> : null}
      <Words size={15} soft>
        Taking one away does not make the machine dead.
      </Words>
    </Card>
  );
}

/** The first act inside: disconnect the pack. */
export function IsolateStation({ v }: { v: JobView }) {
  const t = useTokens();
  const b: IsolatedBody = v.job.isolated?.body ?? {};
  const say = (body: IsolatedBody, words: string) => v.say('isolated', body, words);
  const offer = b.connector === undefined ? v.sheet?.isolation : null;
  return (
    <>
      <SourcesCard v={v} />
      <Card title="Connector of the pack" testID="card-connector">
        {offer ? (
          <SheetOffer
            what={[
              offer.value.connector,
              offer.value.tape ? 'tape over it' : null,
              offer.value.reach,
              offer.value.coinCell && `coin cell ${offer.value.coinCell}`,
            ]
              .filter(Boolean)
              .join(', ')}
            by={offer.by}
            times={offer.times}
            onTake={() => say(offer.value, 'connector')}
            testID="take-isolation"
          />
        ) : null}
        <View role="radiogroup" aria-label="Connector" style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 6 }}>
          {CONNECTORS.map((k: Connector) => (
            <Button
              key={k}
              label={k}
              role="radio"
              selected={b.connector === k}
              height={84}
              style={{ flexBasis: '30%', flexGrow: 1, gap: 4, paddingHorizontal: 4 }}
              onPress={() => say({ connector: k }, k)}
              testID={`connector-${k.replace(/ /g, '-')}`}
            >
              <ConnectorDrawing kind={k} ink={b.connector === k ? t.ground : t.ink} />
              <Words size={14} color={b.connector === k ? t.ground : t.ink} style={{ textAlign: 'center' }}>
                {k}
              </Words>
            </Button>
          ))}
        </View>
        {b.connector ? <Words bold>{RELEASE[b.connector]}</Words> : null}
        <Row gap={6}>
          <Button
            label="tape over it"
            role="checkbox"
            selected={b.tape === true}
            height={52}
            onPress={() => say({ tape: b.tape !== true }, 'tape')}
          />
        </Row>
        <Ask
          label="Reach"
          options={['free', 'pack screws first'] as const}
          value={b.reach}
          onSay={(reach) => say({ reach }, `reach: ${reach}`)}
        />
        <Ask
          label="Firmware’s own switch-off"
          options={['used', 'none'] as const}
          value={b.firmware}
          onSay={(firmware) => say({ firmware }, `firmware: ${firmware}`)}
        />
        <Ask
          label="Power button held, what is left drained"
          options={['yes', 'no'] as const}
          value={b.drained === undefined ? undefined : b.drained ? 'yes' : 'no'}
          onSay={(x) => say({ drained: x === 'yes' }, `drained: ${x}`)}
        />
        <Ask
          label="Coin cell of the clock"
          options={['left', 'removed', 'not seen'] as const}
          value={b.coinCell}
          onSay={(coinCell) => say({ coinCell }, `coin cell ${coinCell}`)}
        />
        {b.coinCell === 'removed' ? (
          <Caution>
            Tape both faces, keep it from children (swallowing). It is lithium metal and travels under other rules.
          </Caution>
        ) : null}
        <Ask
          label="School"
          options={['always', 'off is enough'] as const}
          words={{ always: 'always disconnect' }}
          value={b.school}
          onSay={(school) => say({ school }, `school: ${school}`)}
        />
        {b.school === 'off is enough' ? (
          <Caution>Only for work that does not touch the pack; the pack stays a live source in this record.</Caution>
        ) : null}
      </Card>
    </>
  );
}
