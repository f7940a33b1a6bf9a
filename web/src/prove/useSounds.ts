import { useEffect, useRef } from "react";
import { useAppSelector } from "../hooks/store";
import type { LastRun } from "../model/judging/Mentor";
import { soundsBetween } from "./soundsBetween";

const LOUDNESS = 0.08;

/** While a run plays, its tones and tunes are heard, if they are switched on: as fast as it plays. */
export function useSounds(run: LastRun | null, t: number, on: boolean): void {
  const playing = useAppSelector((state) => state.view.playing);
  const speed = useAppSelector((state) => state.view.speed);
  const audio = useRef<AudioContext | null>(null);
  const last = useRef({ t, at: 0 });
  useEffect(() => {
    // What is under way falls silent when playing ends.
    if (!on || !playing) return;
    return () => {
      void audio.current?.close();
      audio.current = null;
    };
  }, [on, playing]);
  useEffect(() => {
    const { t: from, at } = last.current;
    const now = performance.now();
    last.current = { t, at: now };
    if (!on || !playing || run === null) return;
    for (const tones of soundsBetween(run.trace.outputs, from, t, now - at, speed)) {
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
