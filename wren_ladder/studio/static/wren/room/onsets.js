// Hears strokes: an audio worklet that tells when something was struck and how loud, and keeps no
// sound. High frequencies weigh a little more, for that is what a stick makes; a stroke is where
// the energy of two moments rises over that of the ten before them, and over that of the room.
"use strict";
const HOP = 64; // samples that are one moment
const BRIGHT = 0.5; // of the sample before that is taken off
const NOW = 2, BETWEEN = 1, BEFORE = 10; // moments that are compared
const RISE = 1.8; // times the energy before
const FLOOR = 4; // times the energy of the room
const LEAST = 2e-7; // energy below which nothing is struck
const FALLS = 0.02, GROWS = 1.0005; // how the room's energy follows, a moment: fast down, slowly up
const REST = 0.03; // seconds after a stroke in which there is no other
const LOUD = 0.012; // seconds in which a stroke is loudest

class Onsets extends AudioWorkletProcessor {
  constructor() {
    super();
    this.last = 0; // sample, for the difference
    this.energy = 0;
    this.filled = 0;
    this.moments = []; // the energies of the last ones
    this.room = LEAST;
    this.rested = 0; // time from which on a stroke can be heard
    this.stroke = null; // { at, level } that is still getting louder
  }

  process([[samples]]) {
    if (!samples) return true;
    for (let n = 0; n < samples.length; n += 1) {
      const sample = samples[n];
      const high = sample - BRIGHT * this.last;
      this.last = sample;
      this.energy += high * high;
      if (this.stroke) this.stroke.level = Math.max(this.stroke.level, Math.abs(sample));
      this.filled += 1;
      if (this.filled === HOP) this.looked(currentTime + (n + 1 - HOP) / sampleRate);
    }
    return true;
  }

  looked(at) {
    const here = this.energy / HOP;
    this.energy = 0;
    this.filled = 0;
    this.moments.push(here);
    if (this.moments.length > NOW + BETWEEN + BEFORE) this.moments.shift();
    if (this.stroke && at > this.stroke.at + LOUD) {
      const level = Math.max(1, Math.min(127, Math.round(127 * this.stroke.level)));
      this.port.postMessage([this.stroke.at, level]);
      this.stroke = null;
    }
    if (at >= this.rested && this.struck()) {
      this.stroke = { at, level: 0 };
      this.rested = at + REST;
    }
    if (here < this.room) this.room += FALLS * (here - this.room);
    else this.room *= GROWS;
  }

  struck() {
    if (this.moments.length < NOW + BETWEEN + BEFORE) return false;
    const mean = (from, to) => this.moments.slice(from, to).reduce((sum, one) => sum + one, 0) / (to - from);
    const now = mean(BEFORE + BETWEEN, BEFORE + BETWEEN + NOW), before = mean(0, BEFORE);
    return now > RISE * before && now > FLOOR * this.room && now > LEAST;
  }
}

registerProcessor("onsets", Onsets);
