export * from '../formats/gauge-text';
export { reportText } from '../formats/battery-report';
export type { ReportedBattery } from '../formats/reported';
export * from './sheet';
export * from '../match/match';
export * from '../practice/pack';
