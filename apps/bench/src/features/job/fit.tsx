import { counted } from '@gavrel/core';
import { Field } from '../../ui/field';
import { Card, Row } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { Words } from '../../ui/words';
import { MetricLengths } from '../../ui/display';
import { Ask, Caution } from '../../entry/ask';
import { ScrewsBack } from './screws-back';
import { type Refit, useRefit } from './use-refit';
import type { JobView } from './view';

interface CardProps {
  readonly v: JobView;
  readonly refit: Refit;
}

/** The matched pack that goes in, or none. */
function PackCard({ v, refit }: CardProps) {
  const { pack, fits } = refit;
  const decided = v.packs.filter((p) => fits.includes(p.facts.id) || p.facts.id === v.job.fittedPack);
  return (
    <Card title="Which pack goes in" testID="card-fit-pack">
      {pack === null && decided.length === 0 ? <Words>None is matched. The machine can be closed without one.</Words> : null}
      <Row gap={6}>
        {[...new Set([...(pack ? [pack] : []), ...decided.map((p) => p.facts.id)])].map((id) => (
          <FitPack key={id} id={id} v={v} on={pack === id} onPick={() => refit.setPack(id)} />
        ))}
        <Button label="none" role="radio" selected={pack === null} onPress={() => refit.setPack(null)} />
      </Row>
      {refit.notFitted !== '' ? (
        <Words bold live testID="not-fitted">
          {refit.notFitted}
        </Words>
      ) : null}
      <Caution>A damaged pack is never refitted.</Caution>
    </Card>
  );
}

/** Plugs with the pack's last, clips before screws. */
function PlugsCard({ v, refit }: CardProps) {
  const { said } = refit;
  const cables = v.job.cover?.body.cables ?? [];
  return (
    <Card title="Plugs and clips" testID="card-plugs">
      <Ask
        label="Plugs"
        options={['all, the pack last', 'not all'] as const}
        value={said.plugs}
        onSay={(plugs) => refit.say({ plugs })}
      />
      <Words size={15} soft>
        {`Fan, speaker, antenna, ribbons${cables.length > 0 ? `; here: ${cables.join(', ')}` : ''}. The forgotten one is the fan’s.`}
      </Words>
      {v.job.removals.some((r) => r.said.body.cable === 'keep it') || said.cable ? (
        <Ask
          label="Cable of the pack"
          options={['kept', 'replaced'] as const}
          words={{ kept: 'the old one kept' }}
          value={said.cable}
          onSay={(cable) => refit.say({ cable })}
        />
      ) : null}
      <Ask
        label="Clips"
        options={['before screws', 'not closed'] as const}
        words={{ 'before screws': 'all round, before screws' }}
        value={said.clips}
        onSay={(clips) => refit.say({ clips })}
      />
    </Card>
  );
}

/** What is forgotten last. */
function LastCard({ refit }: { refit: Refit }) {
  const { said } = refit;
  return (
    <Card title="Before it closes">
      <Ask
        label="Feet, plugs, stickers"
        options={['back', 'not all', 'none'] as const}
        words={{ none: 'there were none' }}
        value={said.feet}
        onSay={(feet) => refit.say({ feet })}
      />
      <Ask
        label="Hinge screws (optional)"
        options={['tight', 'tightened', 'not looked'] as const}
        value={said.hinge}
        onSay={(hinge) => refit.say({ hinge })}
      />
      <Ask
        label="Fan (optional)"
        options={['cleaned', 'not looked'] as const}
        value={said.fan}
        onSay={(fan) => refit.say({ fan })}
      />
      <Field
        label="Left over, missing, swapped"
        value={said.note ?? ''}
        onChange={(note) => refit.say({ note })}
        testID="fit-note"
      />
    </Card>
  );
}

/** Back together: plugs with the pack's last, clips before screws, each length group closed. */
export function FitStation({ v }: { v: JobView }) {
  const refit = useRefit(v);
  const { groups, closed, any, said } = refit;
  const named = (said.note ?? '').trim() !== '';
  return (
    <>
      <PackCard v={v} refit={refit} />
      {groups.length > 0 && !(closed && said.plugs && said.clips) ? (
        <Button
          label={`As it was, keep it: plugs, the pack’s last; clips; ${counted(refit.total, 'screw')} by length`}
          height={64}
          disabled={refit.notFitted !== ''}
          onPress={refit.keepAsItWas}
          testID="as-it-was"
        />
      ) : null}
      <PlugsCard v={v} refit={refit} />
      <MetricLengths>
        <ScrewsBack refit={refit} mapped={(v.job.fasteners?.body.screws ?? []).length > 0} />
      </MetricLengths>
      <LastCard refit={refit} />
      <Button
        label={closed ? 'Keep: it closes' : 'Keep, though it does not close'}
        tone={closed ? 'next' : 'plain'}
        height={64}
        disabled={!any || (!closed && !named) || refit.notFitted !== ''}
        onPress={refit.keep}
        testID="keep-refit"
      />
      {!closed && any && !named ? <Words size={15}>Name what is left over or missing, then it can be kept.</Words> : null}
    </>
  );
}

function FitPack({ id, v, on, onPick }: { id: string; v: JobView; on: boolean; onPick: () => void }) {
  const p = v.packs.find((x) => x.facts.id === id);
  return (
    <Button
      label={p ? `${p.facts.tag}, ${p.judgement.condition}` : 'the matched pack'}
      role="radio"
      selected={on}
      disabled={p !== undefined && p.judgement.condition !== 'sound'}
      onPress={onPick}
      height={52}
      testID={`fit-pack-${p?.facts.tag ?? id}`}
    />
  );
}
