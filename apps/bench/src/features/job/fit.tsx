import { closeRefit, excessTurns, groupName, jobScrews, type RefittedBody, type ScrewCount, tipPressure } from '@gavrel/core';
import { useState } from 'react';
import { View } from 'react-native';
import { draft } from '../../device/write';
import { useTokens } from '../../theme';
import { Field } from '../../ui/field';
import { Card, Row } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { Figures, Words } from '../../ui/words';
import { Ask, Caution } from './ask';
import type { JobView } from './view';

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

/** Back together: plugs with the pack's last, clips before screws, each length group closed. */
export function FitStation({ v }: { v: JobView }) {
  const t = useTokens();
  const screws = v.job.fasteners?.body.screws ?? [];
  const before = v.job.refitted?.body;
  const [counts, setCounts] = useState<Record<string, number>>(() =>
    Object.fromEntries((before?.back ?? []).map((b) => [groupName(b), b.count])),
  );
  const [said, setSaid] = useState<Omit<RefittedBody, 'back'>>(() => {
    const { back: _back, ...rest } = before ?? { back: [] };
    return rest;
  });
  const fits = [...new Set(v.job.matches.filter((m) => m.verdict === 'fits').map((m) => m.new))];
  const candidates = v.packs.filter((p) => fits.includes(p.facts.id) || p.facts.id === v.job.fittedPack);
  const decided = v.packs.length > 0 ? candidates : [];
  const [pack, setPack] = useState<string | null>(v.job.fittedPack ?? fits[fits.length - 1] ?? null);
  const groups = jobScrews(v.job, pack !== null);
  const back = groups.map((g): ScrewCount => ({ ...g, count: counts[groupName(g)] ?? 0 }));
  const count = (name: string, by: number) => setCounts((s) => ({ ...s, [name]: Math.max(0, (s[name] ?? 0) + by) }));
  const any = back.some((b) => b.count > 0) || groups.length === 0;
  const closed = closeRefit(groups, back).closed;
  const total = groups.reduce((n, g) => n + g.count, 0);
  const keep = (body: RefittedBody, closes: boolean) => {
    const on = [
      `job:${v.job.id}` as const,
      ...(v.job.notebook ? [`notebook:${v.job.notebook}` as const] : []),
      ...(pack ? [`pack:${pack}` as const] : []),
    ];
    void v.write([draft('refitted', on, body)], closes ? 'refit closed' : 'refit, not closed');
  };
  return (
    <>
      <Card title="Which pack goes in" testID="card-fit-pack">
        {pack === null && decided.length === 0 ? <Words>None is matched. The machine can be closed without one.</Words> : null}
        <Row gap={6}>
          {[...new Set([...(pack ? [pack] : []), ...decided.map((p) => p.facts.id)])].map((id) => (
            <FitPack key={id} id={id} v={v} on={pack === id} onPick={() => setPack(id)} />
          ))}
          <Button label="none" role="radio" selected={pack === null} onPress={() => setPack(null)} />
        </Row>
        <Caution>A damaged pack is never refitted.</Caution>
      </Card>
      {groups.length > 0 && !(closed && said.plugs && said.clips) ? (
        <Button
          label={`As it was, keep it: plugs, the pack’s last; clips; ${total} screws by length`}
          height={64}
          onPress={() => {
            const all = { ...said, plugs: 'all, the pack last', clips: 'before screws' } as const;
            setCounts(Object.fromEntries(groups.map((g) => [groupName(g), g.count])));
            setSaid(all);
            keep({ ...all, back: groups }, true);
          }}
          testID="as-it-was"
        />
      ) : null}
      <Card title="Plugs and clips" testID="card-plugs">
        <Ask
          label="Plugs"
          options={['all, the pack last', 'not all'] as const}
          value={said.plugs}
          onSay={(plugs) => setSaid({ ...said, plugs })}
        />
        <Words size={15} soft>
          {`Fan, speaker, antenna, ribbons${(v.job.cover?.body.cables ?? []).length > 0 ? `; here: ${v.job.cover!.body.cables!.join(', ')}` : ''}. The forgotten one is the fan’s.`}
        </Words>
        {v.job.removals.some((r) => r.said.body.cable === 'keep it') || said.cable ? (
          <Ask
            label="Cable of the pack"
            options={['kept', 'replaced'] as const}
            words={{ kept: 'the old one kept' }}
            value={said.cable}
            onSay={(cable) => setSaid({ ...said, cable })}
          />
        ) : null}
        <Ask
          label="Clips"
          options={['before screws', 'not closed'] as const}
          words={{ 'before screws': 'all round, before screws' }}
          value={said.clips}
          onSay={(clips) => setSaid({ ...said, clips })}
        />
      </Card>
      <Card
        title="Screws back"
        testID="card-back"
        right={<Words bold>{groups.length === 0 ? 'no map' : closed ? 'closes' : 'open'}</Words>}
      >
        {screws.length === 0 ? <Words>No screw was mapped: count cannot be checked.</Words> : null}
        {groups.map((g) => {
          const name = groupName(g);
          const n = counts[name] ?? 0;
          return (
            <View
              key={name}
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
                onPress={() => count(name, -1)}
                testID={`less-${name}`}
              />
              <Button
                label="+"
                hint={`one more ${name}`}
                sign
                height={56}
                onPress={() => count(name, 1)}
                testID={`more-${name}`}
              />
              <Button
                label="all"
                hint={name}
                height={56}
                selected={n === g.count}
                onPress={() => setCounts((s) => ({ ...s, [name]: g.count }))}
              />
            </View>
          );
        })}
        {groups.length > 0 ? (
          <Button
            label={`All ${total} back, length by length`}
            height={56}
            onPress={() => setCounts(Object.fromEntries(groups.map((g) => [groupName(g), g.count])))}
            testID="all-back"
          />
        ) : null}
        {any && !closed ? <TooLong out={groups} back={back} /> : null}
        <Words size={15} soft>
          By hand first, backwards until the thread drops in, stop at the first resistance. Captive ones last a turn each.
        </Words>
      </Card>
      <Card title="Before it closes">
        <Ask
          label="Feet, plugs, stickers"
          options={['back', 'not all', 'none'] as const}
          words={{ none: 'there were none' }}
          value={said.feet}
          onSay={(feet) => setSaid({ ...said, feet })}
        />
        <Ask
          label="Hinge screws (optional)"
          options={['tight', 'tightened', 'not looked'] as const}
          value={said.hinge}
          onSay={(hinge) => setSaid({ ...said, hinge })}
        />
        <Ask
          label="Fan (optional)"
          options={['cleaned', 'not looked'] as const}
          value={said.fan}
          onSay={(fan) => setSaid({ ...said, fan })}
        />
        <Field
          label="Left over, missing, swapped"
          value={said.note ?? ''}
          onChange={(note) => setSaid({ ...said, note })}
          testID="fit-note"
        />
      </Card>
      <Button
        label={closed ? 'Keep: it closes' : 'Keep, though it does not close'}
        tone={closed ? 'next' : 'plain'}
        height={64}
        disabled={!any || (!closed && (said.note ?? '').trim() === '')}
        onPress={() => keep({ ...said, back }, closed)}
        testID="keep-refit"
      />
      {!closed && any && (said.note ?? '').trim() === '' ? (
        <Words size={15}>Name what is left over or missing, then it can be kept.</Words>
      ) : null}
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
