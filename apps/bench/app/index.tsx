import { lazy } from 'react';
import { Bench } from '../src/features/bench/bench';
import { loadLanes } from '../src/shell/later';

const Lanes = lazy(loadLanes);

export default function BenchRoute() {
  return <Bench lanes={Lanes} />;
}
