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
  void sound.resume();
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

type Seen = { readonly video: HTMLVideoElement; readonly onCode: (code: string) => Promise<void>; readonly waits: () => boolean };

/** Sends picture after picture to the reader, the next when the one before is answered. @returns stops it. */
function watch({ video, onCode, waits }: Seen, onTrouble: (words: string) => void): () => void {
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
    const texts = data.codes.map((c) => c.text.trim()).filter(Boolean);
    const next = waits() ? { inSight, code: null } : sighted(inSight, texts, performance.now());
    inSight = next.inSight;
    if (next.code === null) later();
    else void onCode(next.code).finally(later);
  };
  later();
  return () => {
    clearTimeout(timer);
    worker.terminate();
  };
}

/** What the camera sees; a code that stands still in it is taken as if it were scanned. */
function CameraView({ onCode, paused, onClose }: { onCode: TakeCode; paused: boolean; onClose: () => void }) {
  const t = useTokens();
  const video = useRef<HTMLVideoElement>(null);
  const locked = useAppSelector((s) => s.view.locked);
  const [trouble, setTrouble] = useState('');
  const [last, setLast] = useState('');
  const [track, setTrack] = useState<MediaStreamTrack>();
  const [light, setLight] = useState(false);
  const [quiet, setQuiet] = useState(false);
  // What a code does depends on the screen as it is then.
  const now = useRef({ onCode, paused, quiet });
  now.current = { onCode, paused, quiet };
  useEffect(() => {
    let stop = () => {};
    let over = false;
    const take = async (code: string) => {
      setLast(code);
      const taken = await Promise.resolve(now.current.onCode(code)).catch(() => false);
      if (!now.current.quiet) beep(taken !== false);
    };
    const open = async () => {
      const wanted = { facingMode: 'environment', width: { ideal: 1280 }, height: { ideal: 720 } };
      const stream = await navigator.mediaDevices.getUserMedia({ video: wanted });
      const end = () => stream.getTracks().forEach((s) => s.stop());
      if (over) return end();
      video.current!.srcObject = stream;
      const unwatch = watch({ video: video.current!, onCode: take, waits: () => now.current.paused }, setTrouble);
      stop = () => {
        unwatch();
        end();
      };
      setTrack(stream.getVideoTracks()[0]);
      await video.current!.play();
    };
    open().catch((e: unknown) => over || setTrouble(whyDark(e)));
    return () => {
      over = true;
      stop();
    };
  }, []);
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
        <Button label="Stop" hint="camera" onPress={onClose} testID="camera-stop" />
      </Row>
    </View>
  );
}

/** Whether the camera is on: the key beside a field, and what it shows below it. */
export function useCamera(onCode: TakeCode, { paused = false, many = false } = {}) {
  const [on, setOn] = useState(false);
  const close = useRef(() => setOn(false)).current;
  const take: TakeCode = (code) => {
    if (!many) close();
    return onCode(code);
  };
  return {
    key: hasCamera() && !on ? <Button label="Camera" height={56} onPress={() => setOn(true)} testID="camera-key" /> : null,
    view: on ? <CameraView onCode={take} paused={paused} onClose={close} /> : null,
  };
}
