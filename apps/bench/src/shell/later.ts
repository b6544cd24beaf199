import { loadChart } from '../ui/chart';

/** Screens that are not in the first load; they are fetched right after it, so that they are there when the server is not. */
export const loadJob = () => import('../features/job/job').then((m) => ({ default: m.Job }));
export const loadSlip = () => import('../features/pack/slip').then((m) => ({ default: m.Slip }));
export const loadPacks = () => import('../features/packs/packs').then((m) => ({ default: m.Packs }));
export const loadYard = () => import('../features/yard/yard').then((m) => ({ default: m.Yard }));
export const loadPlace = () => import('../features/yard/place').then((m) => ({ default: m.Place }));
export const loadIncident = () => import('../features/yard/incident').then((m) => ({ default: m.Incident }));
export const loadRound = () => import('../features/yard/round').then((m) => ({ default: m.Round }));
export const loadMore = () => import('../features/more/more').then((m) => ({ default: m.More }));
export const loadPeople = () => import('../features/more/people').then((m) => ({ default: m.People }));
export const loadBatch = () => import('../features/batch/batch').then((m) => ({ default: m.Batch }));
export const loadRules = () => import('../features/rules/rules').then((m) => ({ default: m.Rules }));
export const loadTable = () => import('../features/table/table').then((m) => ({ default: m.TableScreen }));
export const loadDispatch = () => import('../features/dispatch/dispatch').then((m) => ({ default: m.Dispatch }));

/** Fetches all of them once the first screen stands. A failure is no harm: opening the screen tries again. */
export function fetchTheRest(): void {
  for (const load of [
    loadPacks,
    loadSlip,
    loadJob,
    loadYard,
    loadPlace,
    loadRound,
    loadIncident,
    loadDispatch,
    loadMore,
    loadPeople,
    loadBatch,
    loadRules,
    loadTable,
    loadChart,
  ])
    load().catch(() => undefined);
}
