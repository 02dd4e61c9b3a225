// A tone for eyes that are elsewhere; silent until the tablet has been touched once.
let sound = null;

export function chime(times) {
  try {
    sound ??= new AudioContext();
    for (let i = 0; i < times; i += 1) {
      const tone = sound.createOscillator();
      const gain = sound.createGain();
      const at = sound.currentTime + i * 0.22;
      tone.frequency.value = times > 1 ? 440 : 660;
      gain.gain.setValueAtTime(0.12, at);
      gain.gain.exponentialRampToValueAtTime(0.001, at + 0.2);
      tone.connect(gain).connect(sound.destination);
      tone.start(at);
      tone.stop(at + 0.2);
    }
  } catch {
    /* no sound here */
  }
}
