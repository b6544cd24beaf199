import type { PlateField } from '@gavrel/core/read-label';
import { TextReader } from './text-reader';

const TITLES: Readonly<Record<PlateField, string>> = { maker: 'Maker', model: 'Model', serial: 'Serial' };

/** Reads the plate of a machine into the fields of a form. */
export function PlateReader({
  plate,
  onTake,
}: {
  plate: Readonly<Record<PlateField, string>>;
  onTake: (field: PlateField, said: string) => void;
}) {
  return <TextReader of="plate" titles={TITLES} values={plate} onTake={onTake} />;
}
