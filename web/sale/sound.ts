let context: AudioContext | undefined;

/** A short low tone: what was scanned was not found. Silent where the browser allows no sound. */
export function soundRefusal(): void {
  try {
    context ??= new AudioContext();
    const tone = context.createOscillator();
    const volume = context.createGain();
    tone.type = 'square';
    tone.frequency.value = 190;
    volume.gain.value = 0.08;
    tone.connect(volume).connect(context.destination);
    tone.start();
    tone.stop(context.currentTime + 0.22);
  } catch {
    // The words on the screen say the same.
  }
}
