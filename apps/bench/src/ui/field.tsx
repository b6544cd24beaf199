import { View } from 'react-native';
import { TextInput } from 'react-native-paper';
import { useTokens, WORDS } from '../theme';
import { useShownText } from './display';
import { Words } from './words';

/** A text. What is longer than it may be stays as it was typed or pasted, and is said. */
export function Field({
  label,
  value,
  onChange,
  secret,
  onSubmit,
  autoFocus,
  testID,
  multiline,
  longest,
  onLeave,
}: {
  label: string;
  value: string;
  onChange: (v: string) => void;
  secret?: boolean;
  onSubmit?: () => void;
  autoFocus?: boolean;
  testID?: string;
  multiline?: boolean;
  /** Characters. */
  longest?: number;
  /** The focus goes elsewhere on the page; not when somebody changes to another window in the middle of a word. */
  onLeave?: () => void;
}) {
  const t = useTokens();
  const shown = useShownText()(label);
  const over = longest === undefined ? 0 : value.length - longest;
  const input = (
    <TextInput
      mode="outlined"
      label={shown}
      aria-label={shown}
      value={value}
      onChangeText={onChange}
      secureTextEntry={secret}
      onSubmitEditing={onSubmit}
      onBlur={() => document.hasFocus() && onLeave?.()}
      // A scanner goes on typing after its Enter.
      blurOnSubmit={false}
      autoFocus={autoFocus}
      multiline={multiline}
      // Scrolled text stays below the label.
      contentStyle={multiline ? { marginTop: 10, paddingTop: 4 } : undefined}
      error={over > 0}
      autoCapitalize="none"
      autoCorrect={false}
      testID={testID}
      outlineColor={t.line}
      activeOutlineColor={t.accent}
      style={{ backgroundColor: t.card, fontFamily: WORDS, fontSize: 17, minHeight: 52 }}
      theme={{ roundness: 0 }}
    />
  );
  if (longest === undefined) return input;
  return (
    <View>
      {input}
      {over > 0 ? (
        <Words bold live>
          {`${over} too many: at most ${longest} characters`}
        </Words>
      ) : null}
    </View>
  );
}
