import { createContext, type ReactNode, useContext, useMemo } from 'react';
import { useColorScheme, useWindowDimensions } from 'react-native';
import { DefaultTheme, type MD3Theme, PaperProvider } from 'react-native-paper';
import { useAppSelector } from '../state';
import { DARK, LIGHT, ROOMY, type Tokens, WIDE, WORDS, WORDS_BOLD } from './tokens';

export * from './tokens';

const TokensContext = createContext<Tokens>(LIGHT);
export const useTokens = (): Tokens => useContext(TokensContext);

/** Paper's components in our own dress: square, flat, our fonts and colours. */
function paperTheme(t: Tokens): MD3Theme {
  const fonts = Object.fromEntries(
    Object.entries(DefaultTheme.fonts).map(([k, f]) => [
      k,
      { ...f, fontFamily: /title|headline|label/.test(k) ? WORDS_BOLD : WORDS, letterSpacing: 0 },
    ]),
  ) as MD3Theme['fonts'];
  return {
    ...DefaultTheme,
    dark: t.dark,
    roundness: 1,
    fonts,
    colors: {
      ...DefaultTheme.colors,
      primary: t.accent,
      onPrimary: t.onAccent,
      background: t.ground,
      surface: t.card,
      onSurface: t.ink,
      onSurfaceVariant: t.soft,
      outline: t.line,
      onBackground: t.ink,
      surfaceVariant: t.card,
      surfaceDisabled: t.wash,
      onSurfaceDisabled: t.soft,
      error: t.critical,
    },
  };
}

/** Light or dark, as chosen or as the device has it. */
export function ThemeProvider({ children }: { children: ReactNode }) {
  const chosen = useAppSelector((s) => s.view.theme);
  const device = useColorScheme();
  const dark = chosen === 'dark' || (chosen === 'auto' && device === 'dark');
  const tokens = dark ? DARK : LIGHT;
  const paper = useMemo(() => paperTheme(tokens), [tokens]);
  return (
    <TokensContext.Provider value={tokens}>
      <PaperProvider theme={paper} settings={{ rippleEffectEnabled: false }}>
        {children}
      </PaperProvider>
    </TokensContext.Provider>
  );
}

export const useWide = (): boolean => useWindowDimensions().width >= WIDE;
export const useRoomy = (): boolean => useWindowDimensions().width >= ROOMY;
