/** Tones and pulses for each answer of the door: heard and felt where nobody looks. One goes up, one is short, one goes down. */
const signals = {
  go: { tones: [660, 880], pulses: [60] },
  settle: { tones: [520], pulses: [60, 60, 60] },
  stop: { tones: [440, 220], pulses: [300] },
} as const;

let audio: AudioContext | null = null;

/** Sounds and vibrates for an answer, where the device can. */
export function signal(light: keyof typeof signals): void {
  const { tones, pulses } = signals[light];
  navigator.vibrate?.([...pulses]);
  if (!('AudioContext' in window)) return;
  audio ??= new AudioContext();
  for (const [at, frequency] of tones.entries()) {
    const tone = audio.createOscillator();
    const loud = audio.createGain();
    tone.frequency.value = frequency;
    loud.gain.value = 0.12;
    tone.connect(loud).connect(audio.destination);
    tone.start(audio.currentTime + at * 0.12);
    tone.stop(audio.currentTime + at * 0.12 + 0.11);
  }
}
