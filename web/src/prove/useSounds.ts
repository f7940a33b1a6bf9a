import { useEffect, useRef } from "react";
import type { LastRun } from "../session/Mentor";
import { useAppSelector } from "../state/store";

/** A jump of the playhead farther than this is no playing, in ms. */
const JUMP_MS = 1500;
const LOUDNESS = 0.08;

/** While a run plays, its tones and tunes are heard, if they are switched on: as fast as it plays. */
export function useSounds(run: LastRun | null, t: number, on: boolean): void {
  const playing = useAppSelector((state) => state.view.playing);
  const speed = useAppSelector((state) => state.view.speed);
  const audio = useRef<AudioContext | null>(null);
  const last = useRef(t);
  useEffect(() => {
    // What is under way falls silent when playing ends.
    if (!on || !playing) return;
    return () => {
      void audio.current?.close();
      audio.current = null;
    };
  }, [on, playing]);
  useEffect(() => {
    const from = last.current;
    last.current = t;
    if (!on || !playing || run === null || t <= from || t - from > JUMP_MS) return;
    for (const { t: at, command } of run.trace.outputs) {
      if (at <= from || at > t) continue;
      const tones = command.kind === "tone" ? [command] : command.kind === "tune" ? command.tones : null;
      if (tones === null) continue;
      audio.current ??= new AudioContext();
      let begin = audio.current.currentTime;
      for (const { hertz, ms } of tones) {
        const end = begin + ms / 1000 / speed;
        if (hertz > 0) sound(audio.current, hertz, begin, end);
        begin = end;
      }
    }
  }, [run, t, on, playing, speed]);
}

function sound(audio: AudioContext, hertz: number, begin: number, end: number): void {
  const tone = new OscillatorNode(audio, { type: "triangle", frequency: hertz });
  // Swelling and fading within a hundredth of a second, so that it does not click.
  const gain = new GainNode(audio, { gain: 0 });
  gain.gain.setValueAtTime(0, begin);
  gain.gain.linearRampToValueAtTime(LOUDNESS, begin + 0.01);
  gain.gain.setValueAtTime(LOUDNESS, Math.max(begin + 0.01, end - 0.01));
  gain.gain.linearRampToValueAtTime(0, end);
  tone.connect(gain).connect(audio.destination);
  tone.start(begin);
  tone.stop(end);
}
