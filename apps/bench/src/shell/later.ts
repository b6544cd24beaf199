import { loadSchemas } from '../state/schemas';
import { loadChart } from '../ui/chart';
import { loadGrid } from '../ui/grid/lazy';

/** Screens that are not in the first load; they are fetched right after it, so that they are there when the server is not. */
const screens = () => import('./screens');
export const loadJob = () => screens().then((m) => ({ default: m.Job }));
export const loadSlip = () => screens().then((m) => ({ default: m.Slip }));
export const loadPacks = () => screens().then((m) => ({ default: m.Packs }));
export const loadYard = () => screens().then((m) => ({ default: m.Yard }));
export const loadPlace = () => screens().then((m) => ({ default: m.Place }));
export const loadIncident = () => screens().then((m) => ({ default: m.Incident }));
export const loadRound = () => screens().then((m) => ({ default: m.Round }));
export const loadMore = () => screens().then((m) => ({ default: m.More }));
export const loadPeople = () => screens().then((m) => ({ default: m.People }));
export const loadBatch = () => screens().then((m) => ({ default: m.Batch }));
export const loadRules = () => screens().then((m) => ({ default: m.Rules }));
export const loadTable = () => screens().then((m) => ({ default: m.TableScreen }));
export const loadDues = () => screens().then((m) => ({ default: m.DuesPage }));
export const loadLanes = () => screens().then((m) => ({ default: m.Lanes }));
export const loadConsignment = () => screens().then((m) => ({ default: m.Consignment }));
export const loadMeans = () => screens().then((m) => ({ default: m.Means }));
export const loadNotices = () => screens().then((m) => ({ default: m.Notices }));
export const loadPractice = () => screens().then((m) => ({ default: m.Practice }));
export const loadPracticeSession = () => screens().then((m) => ({ default: m.PracticeSession }));
export const loadDispatch = () => screens().then((m) => ({ default: m.Dispatch }));

/** Fetches all of it once the first screen stands. A failure is no harm: opening a screen tries again. */
export function fetchTheRest(): void {
  for (const load of [screens, loadSchemas, loadGrid, loadChart]) load().catch(() => undefined);
}
