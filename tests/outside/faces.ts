import { readFileSync } from 'node:fs';
import { join } from 'node:path';

const font = (cut: string) =>
  new Uint8Array(
    readFileSync(
      join(
        __dirname,
        `../../node_modules/@expo-google-fonts/atkinson-hyperlegible-next/${cut}/AtkinsonHyperlegibleNext_${cut}.ttf`,
      ),
    ),
  );

/** The faces that go into the paper. */
export const FACES = { words: font('400Regular'), bold: font('700Bold') };
