/** Every screen but the first, in one file: what two files share would be in the first load. */
export { Batch } from '../features/batch/batch';
export { Consignment } from '../features/dispatch/consignment';
export { Dispatch } from '../features/dispatch/dispatch';
export { Means } from '../features/dispatch/means';
export { Notices } from '../features/dispatch/notices';
export { Job } from '../features/job/job';
export { More } from '../features/more/more';
export { People } from '../features/more/people';
export { Packs } from '../features/packs/packs';
export { Slip } from '../features/pack/slip';
export { Rules } from '../features/rules/rules';
export { TableScreen } from '../features/table/table';
export { Incident } from '../features/yard/incident';
export { Place } from '../features/yard/place';
export { Round } from '../features/yard/round';
export { Yard } from '../features/yard/yard';
export { Lanes } from '../features/bench/lanes';
