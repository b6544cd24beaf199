import { useEffect, useRef, useState } from 'react';
import { View } from 'react-native';
import type { ReaderAnswer, ReaderQuestion } from '../reader/messages';
import { useAppSelector } from '../state';
import { useTokens } from '../theme';
import { Button } from '../ui/buttons';
import { Row } from '../ui/frame';
import { Words } from '../ui/words';
import { NOTHING_IN_SIGHT, sighted } from './sighting';

/** Takes a code. @returns false where it was not what was asked for: it sounds lower. */
export type TakeCode = (code: string) => boolean | void | Promise<boolean | void>;

/** Rest between two pictures, ms: the phone stays cool, and five in a second are enough. */
const BETWEEN_MS = 120;

/** Browsers give a camera only to pages of this device or behind a certificate. */
export const hasCamera = (): boolean => typeof navigator !== 'undefined' && navigator.mediaDevices?.getUserMedia !== undefined;

/** What to do where the camera does not open. */
function whyDark(e: unknown): string {
  const name = (e as Error | undefined)?.name ?? '';
  if (name === 'NotAllowedError')
    return 'The camera is not allowed for this page: allow it in the browser’s settings, or type the code.';
  if (['NotFoundError', 'OverconstrainedError', 'NotSupportedError'].includes(name))
    return 'This device has no camera: scan or type the code.';
  if (name === 'NotReadableError') return 'Another program has the camera: close it and try again, or type the code.';
  return 'The camera does not open: type the code.';
}

let sound: AudioContext | null = null;
/** One high tone for a code that was taken, two low ones for one that was not. */
function beep(taken: boolean): void {
  sound ??= new AudioContext();
  sound.resume().catch(() => undefined);
  for (const [from, hertz] of taken ? [[0, 1400] as const] : ([0, 0.16] as const).map((t) => [t, 420] as const)) {
    const [tone, loud] = [sound.createOscillator(), sound.createGain()];
    tone.frequency.value = hertz;
    loud.gain.value = 0.12;
    tone.connect(loud).connect(sound.destination);
    tone.start(sound.currentTime + from);
    tone.stop(sound.currentTime + from + 0.1);
  }
  navigator.vibrate?.(taken ? 40 : [80, 60, 80]);
}

const hasTorch = (track: MediaStreamTrack | undefined): boolean =>
  track !== undefined && 'torch' in (track.getCapabilities?.() ?? {});

interface Watched {
  readonly video: HTMLVideoElement;
  readonly onCode: (code: string) => Promise<void>;
  readonly waits: () => boolean;
  /** The code becomes a tag: product codes are none, and of several nobody knows which is meant. */
  readonly asTag: boolean;
  readonly onSeveral: (codes: readonly string[]) => void;
}

/** Codes of what is sold, the same on every piece. */
const PRODUCT = /^(EAN|UPC)/i;

/** Sends picture after picture to the reader, the next when the one before is answered. @returns stops it. */
function watch({ video, onCode, waits, asTag, onSeveral }: Watched, onTrouble: (words: string) => void): () => void {
  const worker = new Worker('/reader/reader.js');
  let timer: ReturnType<typeof setTimeout>;
  let inSight = NOTHING_IN_SIGHT;
  const later = () => {
    timer = setTimeout(() => void look().catch(later), BETWEEN_MS);
  };
  const look = async () => {
    if (waits() || video.readyState < HTMLMediaElement.HAVE_CURRENT_DATA) return later();
    const frame = await createImageBitmap(video);
    worker.postMessage({ frame, want: 'frame' } satisfies ReaderQuestion, [frame]);
  };
  const missing = 'The reader is not on this device yet: use it once with the server.';
  worker.onerror = () => onTrouble(missing);
  worker.onmessage = ({ data }: MessageEvent<ReaderAnswer>) => {
    if (data.kind === 'trouble') return onTrouble(data.words);
    if (data.kind !== 'done') return;
    const codes = data.codes.filter((c) => !asTag || !PRODUCT.test(c.format));
    const texts = [...new Set(codes.map((c) => c.text.trim()))].filter(Boolean);
    const next = waits() ? { inSight, code: null } : sighted(inSight, texts, performance.now(), asTag);
    inSight = next.inSight;
    if (asTag && texts.length > 1) onSeveral(texts);
    if (next.code === null) later();
    else void onCode(next.code).finally(later);
  };
  later();
  return () => {
    clearTimeout(timer);
    worker.terminate();
  };
}

interface CameraProps {
  readonly onCode: TakeCode;
  readonly paused: boolean;
  readonly asTag: boolean;
  readonly onClose: () => void;
}

/** Opens the camera and watches what it sees, until the view goes. */
function useWatching({ onCode, paused, asTag }: CameraProps, quiet: boolean) {
  const video = useRef<HTMLVideoElement>(null);
  const [trouble, setTrouble] = useState('');
  const [last, setLast] = useState('');
  const [several, setSeveral] = useState<readonly string[]>([]);
  const [track, setTrack] = useState<MediaStreamTrack>();
  // What a code does depends on the screen as it is then.
  const now = useRef({ onCode, paused, quiet });
  now.current = { onCode, paused, quiet };
  const take = useRef(async (code: string) => {
    setLast(code);
    setSeveral([]);
    const taken = await Promise.resolve(now.current.onCode(code)).catch(() => false);
    if (!now.current.quiet) beep(taken !== false);
  }).current;
  useEffect(() => {
    let stop = () => {};
    let over = false;
    const dark = (words: string) => {
      stop();
      if (!over) setTrouble(words);
    };
    const open = async () => {
      const wanted = { facingMode: 'environment', width: { ideal: 1280 }, height: { ideal: 720 } };
      const stream = await navigator.mediaDevices.getUserMedia({ video: wanted });
      const [first] = stream.getVideoTracks();
      stop = () => stream.getTracks().forEach((s) => s.stop());
      if (over) return stop();
      const shown = video.current!;
      shown.srcObject = stream;
      const seen = { video: shown, onCode: take, waits: () => now.current.paused, asTag, onSeveral: setSeveral };
      const unwatch = watch(seen, dark);
      stop = () => {
        unwatch();
        stream.getTracks().forEach((s) => s.stop());
      };
      // Pulled out, or taken back in the browser's settings.
      first?.addEventListener('ended', () => dark('The camera stopped: open it again, or type the code.'));
      setTrack(first);
      await shown.play();
    };
    open().catch((e: unknown) => dark(whyDark(e)));
    return () => {
      over = true;
      stop();
    };
  }, [asTag, take]);
  return { video, trouble, last, several, track, take };
}

/** What the camera sees; a code that stands still in it is taken as if it were scanned. */
function CameraView(props: CameraProps) {
  const { onClose } = props;
  const t = useTokens();
  const locked = useAppSelector((s) => s.view.locked);
  const [light, setLight] = useState(false);
  const [quiet, setQuiet] = useState(false);
  const { video, trouble, last, several, track, take } = useWatching(props, quiet);
  // Nobody is filmed from a pocket or behind a lock.
  useEffect(() => {
    if (locked) onClose();
    const hidden = () => document.hidden && onClose();
    document.addEventListener('visibilitychange', hidden);
    return () => document.removeEventListener('visibilitychange', hidden);
  }, [locked, onClose]);
  const turn = (on: boolean) => {
    setLight(on);
    void track?.applyConstraints({ advanced: [{ torch: on } as MediaTrackConstraintSet] }).catch(() => setLight(false));
  };
  return (
    <View style={{ gap: 6 }} testID="camera">
      {trouble ? (
        <Words bold live testID="camera-trouble">
          {trouble}
        </Words>
      ) : (
        <video
          ref={video}
          muted
          playsInline
          aria-label="what the camera sees"
          style={{ width: '100%', height: 200, boxSizing: 'border-box', objectFit: 'cover', border: `2px solid ${t.ink}` }}
        />
      )}
      <Row gap={6}>
        <Words style={{ flex: 1 }} size={15} live testID="camera-last">
          {trouble ? '' : last ? `read ${last}` : 'Hold a code still before it.'}
        </Words>
        {hasTorch(track) ? <Button label="Light" selected={light} onPress={() => turn(!light)} testID="camera-light" /> : null}
        <Button label="Sound" selected={!quiet} onPress={() => setQuiet(!quiet)} testID="camera-sound" />
      </Row>
      {several.length > 0 && !trouble ? (
        <>
          <Words bold live>
            More than one code: which is the tag?
          </Words>
          <Row gap={6}>
            {several.map((code) => (
              <Button key={code} label={code} height={56} onPress={() => take(code)} testID={`several-${code}`} />
            ))}
          </Row>
        </>
      ) : null}
    </View>
  );
}

/** The key beside a field that opens and closes the camera, and what it shows below it. */
export function useCamera(onCode: TakeCode, { paused = false, many = false, asTag = false } = {}) {
  const [on, setOn] = useState(false);
  const close = useRef(() => setOn(false)).current;
  const take: TakeCode = (code) => {
    if (!many) close();
    return onCode(code);
  };
  return {
    key: hasCamera() ? <Button label="Camera" height={56} selected={on} onPress={() => setOn(!on)} testID="camera-key" /> : null,
    view: on ? <CameraView onCode={take} paused={paused} asTag={asTag} onClose={close} /> : null,
  };
}
