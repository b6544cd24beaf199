import { createContext, useContext } from 'react';
import type { Actions } from './actions';

export const ActionsContext = createContext<Actions | null>(null);

/** What the screens may do. */
export function useActions(): Actions {
  const actions = useContext(ActionsContext);
  if (!actions) throw new Error('no actions above this screen');
  return actions;
}
