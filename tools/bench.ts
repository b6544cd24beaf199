import { Trouble } from './common';

export const main = async (_say: (line: string) => void): Promise<void> => {
  throw new Trouble('comes with the next change');
};
