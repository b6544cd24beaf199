import { useEffect, useState } from 'react';
import { Provider } from 'react-redux';
import { StorageError } from '../src/device/storage-error';
import { Shell } from '../src/shell/shell';
import { makeStore } from '../src/state';
import { Actions } from '../src/state/actions';
import { ActionsContext } from '../src/state/context';
import { ThemeProvider } from '../src/theme';
import { DisplayProvider } from '../src/ui/display';

export default function Layout() {
  const [store] = useState(makeStore);
  const [actions] = useState(() => new Actions(store));
  useEffect(() => {
    void actions.open();
    // It is said on the screen already.
    const said = (e: PromiseRejectionEvent) => {
      if (e.reason instanceof StorageError) e.preventDefault();
    };
    window.addEventListener('unhandledrejection', said);
    return () => window.removeEventListener('unhandledrejection', said);
  }, [actions]);
  return (
    <Provider store={store}>
      <ActionsContext.Provider value={actions}>
        <ThemeProvider>
          <DisplayProvider>
            <Shell />
          </DisplayProvider>
        </ThemeProvider>
      </ActionsContext.Provider>
    </Provider>
  );
}
