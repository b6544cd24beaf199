import { useEffect, useState } from 'react';
import { Provider } from 'react-redux';
import { Shell } from '../src/features/shell';
import { makeStore } from '../src/store';
import { Actions } from '../src/store/actions';
import { ActionsContext } from '../src/store/context';
import { ThemeProvider } from '../src/theme';

export default function Layout() {
  const [store] = useState(makeStore);
  const [actions] = useState(() => new Actions(store));
  useEffect(() => {
    void actions.open();
  }, [actions]);
  return (
    <Provider store={store}>
      <ActionsContext.Provider value={actions}>
        <ThemeProvider>
          <Shell />
        </ThemeProvider>
      </ActionsContext.Provider>
    </Provider>
  );
}
