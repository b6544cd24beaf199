import { TextInput } from 'react-native-paper';
import { useTokens, WORDS } from '../theme';

/** One line of text. */
export function Field({
  label,
  value,
  onChange,
  secret,
  onSubmit,
  autoFocus,
  testID,
  multiline,
}: {
  label: string;
  value: string;
  onChange: (v: string) => void;
  secret?: boolean;
  onSubmit?: () => void;
  autoFocus?: boolean;
  testID?: string;
  multiline?: boolean;
}) {
  const t = useTokens();
  return (
    <TextInput
      mode="outlined"
      label={label}
      aria-label={label}
      value={value}
      onChangeText={onChange}
      secureTextEntry={secret}
      onSubmitEditing={onSubmit}
      // A scanner goes on typing after its Enter.
      blurOnSubmit={false}
      autoFocus={autoFocus}
      multiline={multiline}
      // Scrolled text stays below the label.
      contentStyle={multiline ? { marginTop: 10, paddingTop: 4 } : undefined}
      autoCapitalize="none"
      autoCorrect={false}
      testID={testID}
      outlineColor={t.line}
      activeOutlineColor={t.accent}
      style={{ backgroundColor: t.card, fontFamily: WORDS, fontSize: 17, minHeight: 52 }}
      theme={{ roundness: 0 }}
    />
  );
}
