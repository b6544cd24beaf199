import { type FastenersBody, mirrored, type Screw } from '@gavrel/core';
import { useRef, useState } from 'react';
import { useDraft } from '../../state/use-draft';

/** A screw without its place: what the next tap draws. */
export type Brush = Omit<Screw, 'id' | 'x' | 'y'>;

/** A part of a screw to change; undefined takes it away. */
export type BrushPart = { [K in keyof Brush]?: Brush[K] | undefined };

const applied = <S extends Brush>(s: S, part: BrushPart): S =>
  Object.fromEntries(Object.entries({ ...s, ...part }).filter(([, x]) => x !== undefined)) as unknown as S;

/** How near a tap is to be to a screw to mean it, as a part of the base's width. */
const NEAR = 0.05;

/** The fastener map being drawn, kept as a draft of its job: taps, the brush, the picked screw, and the steps back. */
export function useMap(job: string, start: FastenersBody) {
  const [body, setBody, done] = useDraft<FastenersBody>(`map ${job}`, start);
  const [brush, setBrush] = useState<Brush>({ thread: 'M2', length: { digits: '4', unit: 'mm' }, drive: 'PH0' });
  const [picked, setPicked] = useState<number | null>(null);
  const past = useRef<FastenersBody[]>([]);
  const { screws } = body;
  const change = (next: readonly Screw[]) => {
    past.current.push(body);
    setBody({ ...body, screws: next });
  };
  const now: Brush = (picked === null ? undefined : screws.find((s) => s.id === picked)) ?? brush;
  return {
    body,
    setBody,
    done,
    picked,
    /** What the choices show: the picked screw, else the brush. */
    now,
    /** A tap picks the screw under it, or draws one. */
    tap: (x: number, y: number) => {
      const hit = screws.find((s) => Math.hypot(s.x - x, (s.y - y) / (body.ratio ?? 1.45)) < NEAR);
      if (hit) return setPicked(hit.id === picked ? null : hit.id);
      const id = Math.max(0, ...screws.map((s) => s.id)) + 1;
      change([...screws, { ...brush, id, x: Math.round(x * 1000) / 1000, y: Math.round(y * 1000) / 1000 }]);
      setPicked(null);
    },
    /** A choice goes to the picked screw, else to the brush. */
    set: (part: BrushPart) => {
      if (picked === null) setBrush(applied(brush, part));
      else change(screws.map((s) => (s.id === picked ? applied(s, part) : s)));
    },
    undo: () => {
      const last = past.current.pop();
      if (!last) return;
      setBody(last);
      if (!last.screws.some((s) => s.id === picked)) setPicked(null);
    },
    mirror: () => change([...screws, ...mirrored(screws)]),
    /** One more at the distance of the last two, where it still lies on the base. */
    repeat: () => {
      const [a, b] = screws.slice(-2);
      if (!a || !b) return;
      const [x, y] = [2 * b.x - a.x, 2 * b.y - a.y];
      if (x < 0 || x > 1 || y < 0 || y > 1) return;
      change([...screws, { ...b, id: Math.max(...screws.map((s) => s.id)) + 1, x, y }]);
    },
    /** Every screw like the one shown; where it is, its state and what hides it stay its own. */
    makeSame: () =>
      change(
        screws.map(({ id, x, y, state, hidden, captive }) => ({
          ...now,
          id,
          x,
          y,
          ...(state && { state }),
          ...(hidden && { hidden }),
          ...(captive && { captive }),
        })),
      ),
    takeAway: () => {
      change(screws.filter((s) => s.id !== picked));
      setPicked(null);
    },
  };
}

export type MapDraft = ReturnType<typeof useMap>;
