import { CABLE_NAMES, type CoverBody, type FastenersBody, groupName, groupsOf, LIFTS, PRY_STARTS, counted } from '@gavrel/core';
import { useState } from 'react';
import { Card, Row } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { Figures, Words } from '../../ui/words';
import { Ask, Caution } from '../../entry/ask';
import { Base } from './base-drawing';
import { MapEditor } from './fastener-map';
import { OpeningBand } from './opening-band';
import { SheetOffer } from './sheet-offer';
import type { JobView } from './view';

const countWords = (f: FastenersBody) =>
  `${counted(f.screws.length, 'screw')}: ${groupsOf(f.screws)
    .map((g) => `${g.count} × ${groupName(g)}`)
    .join(', ')}${f.screws.some((s) => s.captive) ? `, ${f.screws.filter((s) => s.captive).length} captive` : ''}`;

/** The map of the screws, or those of the model to take over. */
function ScrewsCard({ v }: { v: JobView }) {
  const { job, sheet } = v;
  const [editing, setEditing] = useState(false);
  const map = job.fasteners?.body;
  const keep = async (b: FastenersBody) => {
    await v.say('fasteners-mapped', b, counted(b.screws.length, 'screw'));
    setEditing(false);
  };
  return (
    <>
      <Card
        title="Screws"
        testID="card-screws"
        right={
          <Button
            label={map ? 'Change' : 'Draw the map'}
            tone={map || sheet?.variants.length ? 'plain' : 'next'}
            onPress={() => setEditing(true)}
            testID="edit-map"
          />
        }
      >
        {map ? (
          <>
            <Base body={map} />
            <Figures size={15}>{countWords(map)}</Figures>
            {map.screws.some((s) => s.state) ? (
              <Words size={15}>{`Came so: ${map.screws
                .filter((s) => s.state)
                .map((s) => `screw ${s.id} ${s.state}`)
                .join(', ')}`}</Words>
            ) : null}
          </>
        ) : (
          <>
            {(sheet?.variants ?? []).slice(0, 3).map((x, i) => (
              <SheetOffer
                key={i}
                what={countWords(x.value)}
                by={x.by}
                times={x.times}
                onTake={() => keep(x.value)}
                testID={`take-screws-${i}`}
              />
            ))}
            <Words size={15}>Count first. Under feet, stickers, plugs, tape and the drive there may be more.</Words>
          </>
        )}
        <Caution>A long screw in a short hole punctures the pack: length by length.</Caution>
      </Card>
      {editing ? (
        <MapEditor
          job={`${job.id} ${job.fasteners?.id ?? ''}`}
          start={map ?? { habit: 'map', screws: [] }}
          onKeep={keep}
          onClose={() => setEditing(false)}
        />
      ) : null}
    </>
  );
}

/** Where it was pried, with what, how the cover comes away, and what hangs on it. */
function CoverCard({ v }: { v: JobView }) {
  const { job, sheet } = v;
  const c: CoverBody = job.cover?.body ?? {};
  const cover = (body: CoverBody, words: string) => v.say('cover-opened', body, words);
  const toggle = (name: (typeof CABLE_NAMES)[number]) => {
    const now = c.cables ?? [];
    cover({ cables: now.includes(name) ? now.filter((x) => x !== name) : [...now, name] }, `cable: ${name}`);
  };
  return (
    <Card title="Cover" testID="card-cover">
      {!job.cover && sheet?.cover ? (
        <SheetOffer
          what={[
            sheet.cover.value.pryStart && `pry from ${sheet.cover.value.pryStart}`,
            sheet.cover.value.tool,
            sheet.cover.value.lifts,
            ...(sheet.cover.value.cables ?? []),
          ]
            .filter(Boolean)
            .join(', ')}
          by={sheet.cover.by}
          times={sheet.cover.times}
          onTake={() => cover(sheet.cover!.value, 'cover off')}
          testID="take-cover"
        />
      ) : null}
      <Ask
        label="Pried from"
        options={PRY_STARTS}
        value={c.pryStart}
        onSay={(pryStart) => cover({ pryStart }, `pried from ${pryStart}`)}
      />
      <Ask
        label="With"
        options={['plastic', 'thin metal', 'none'] as const}
        words={{ none: 'no tool' }}
        value={c.tool}
        onSay={(tool) => cover({ tool }, `tool: ${tool}`)}
      />
      {c.tool === 'thin metal' ? (
        <Caution>Thin metal only on a case seam, shallow, never near the pack or a board.</Caution>
      ) : null}
      <Ask label="Comes away" options={LIFTS} value={c.lifts} onSay={(lifts) => cover({ lifts }, `cover ${lifts}`)} />
      <Words size={15} soft>
        Cables to mind
      </Words>
      <Row gap={6}>
        {CABLE_NAMES.map((n) => (
          <Button
            key={n}
            label={n}
            role="checkbox"
            selected={c.cables?.includes(n) ?? false}
            onPress={() => toggle(n)}
            height={52}
          />
        ))}
      </Row>
    </Card>
  );
}

/** Screws, where to pry, how the cover comes away. */
export function OpenStation({ v }: { v: JobView }) {
  return (
    <>
      {v.opening.word === 'open now' ? null : <OpeningBand opening={v.opening} />}
      <ScrewsCard v={v} />
      <CoverCard v={v} />
    </>
  );
}
