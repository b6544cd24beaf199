export * from '../formats/gauge-text';
export * from './sheet';
export * from '../match/match';
export * from '../practice/pack';
