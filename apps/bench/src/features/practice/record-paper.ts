import type { Practised } from '@gavrel/contract';
import { GRADES, gradesPassed } from '@gavrel/core/practice';
import type { ReportPaper } from '../../paper/draw';
import { exactWords } from '../../ui/say';
import { brierOf, calibrationOf, scenarioOf } from './record';
import { calibrationWords, playedWords } from './words';

/** Sessions a paper lists, the newest first. */
const LISTED = 60;

/** What one person practised, on paper: for whoever must show it. */
export function recordPaper(played: readonly Practised[], name: string, workshop: string, today: string): ReportPaper {
  const passed = gradesPassed(played);
  const brier = brierOf(played);
  const unsafe = played.filter((p) => p.harm > 0).length;
  const newest = [...played].reverse().slice(0, LISTED);
  return {
    workshop,
    title: `Practice of ${name}`,
    owner: '',
    date: `up to ${today}`,
    band: 'Practice: simulated packs, nothing that happened to a real one',
    sections: [
      {
        title: 'In short',
        lines: [
          `${played.length} sessions, ${played.filter((p) => p.full).length} all right, ${unsafe} with an unsafe act`,
          ...(brier === null ? [] : [`Brier score of the bets ${brier.toFixed(2)}: 0 is best, 1 is worst`]),
          ...calibrationOf(played).map(calibrationWords),
        ],
      },
      { title: 'Grades', lines: GRADES.map((g) => `${g}: ${passed.includes(g) ? 'passed' : 'not passed'}`) },
      {
        title: played.length > LISTED ? `The last ${LISTED} sessions` : 'Sessions',
        lines: newest.map((p) => `${exactWords(p.at)}: ${scenarioOf(p.scenario)?.title ?? p.scenario}, ${playedWords(p)}`),
      },
    ],
    foot: 'It says what somebody did with simulated packs. Whether they may assess a real one is for their lead and for local rules.',
  };
}
