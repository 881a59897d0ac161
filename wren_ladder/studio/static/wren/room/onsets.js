// Hears strokes: an audio worklet that tells when something was struck and how loud, and keeps no
// sound. High frequencies weigh more, for that is what a stick makes; a stroke is where the energy
// of a few milliseconds rises over what was just heard.
"use strict";
const HOP = 64; // samples that are looked at together
const RISE = 3.5; // times the energy of the moments before
const FLOOR = 6; // times the energy of the room
const LEAST = 2e-7; // energy below which nothing is struck
const BEFORE = 0.024, QUIET = 1.5; // seconds of the moments before, and over which the room is heard
const REST = 0.03; // seconds after a stroke in which there is no other
const LOUD = 0.012; // seconds in which a stroke is loudest

class Onsets extends AudioWorkletProcessor {
  constructor() {
    super();
    this.last = 0; // sample, for the difference
    this.energy = 0;
    this.filled = 0;
    this.before = 0; // energy of the moments before
    this.room = 1e-7;
    this.rested = 0; // time from which on a stroke can be heard
    this.stroke = null; // { at, level } that is still getting louder
  }

  process([[samples]]) {
    if (!samples) return true;
    for (let n = 0; n < samples.length; n += 1) {
      const sample = samples[n];
      const high = sample - 0.9 * this.last;
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
    const struck = here > RISE * this.before && here > FLOOR * this.room && here > LEAST;
    if (this.stroke && at > this.stroke.at + LOUD) {
      const level = Math.max(1, Math.min(127, Math.round(127 * this.stroke.level)));
      this.port.postMessage([this.stroke.at, level]);
      this.stroke = null;
    }
    if (struck && at >= this.rested) {
      this.stroke = { at, level: 0 };
      this.rested = at + REST;
    }
    const hop = HOP / sampleRate;
    const share = Math.min(1, hop / BEFORE);
    this.before += (here > this.before ? 4 * share : share) * (here - this.before);
    this.room += Math.min(1, hop / QUIET) * (Math.min(here, 4 * this.room) - this.room);
    this.energy = 0;
    this.filled = 0;
  }
}

registerProcessor("onsets", Onsets);
