export { Bench as default } from '../src/features/bench/bench';
