// Hears strokes: an audio worklet that tells when something was struck and how loud, and keeps no
// sound. The sound is parted into bands; a stroke is where the energy of one rises over the highest
// that it had before, which is the drum's envelope and not its wave, and over that of the room: so
// a stick is heard while a kick swings, and a tom while another rings.
"use strict";
const HOP = 64; // samples that are one moment
const EDGES = [110, 260, 700, 2500, 7000]; // hertz, between the bands
const BRIGHT = 0.5; // of the sample before that is taken off where all of it is looked at
const NOW = [7, 4, 3, 2, 2, 2, 2]; // moments that are looked at, of each band: a wave is no stroke
const QUICKEST = Math.min(...NOW);
const BEFORE = 22; // moments that they are compared with
const RISES = [2, 2.2, 2.6, 2.6, 2.6, 2.6, 1.8]; // times the highest energy before
const FEW = 10; // of them, where the wave is too quick to be taken for a stroke
const FLOORS = [8, 8, 5, 3, 2.5, 2.5, 2.5]; // times the energy of the room: what is narrow swells by itself
const SHARE = 0.01; // of all the energy there is: less is the wave of another band
const LEAST = 1e-7; // energy below which nothing is struck
const FALLS = 0.02, GROWS = 0.01, ODD = 4; // how the room's energy follows a moment: down, up, and at most
const REST = 0.045; // seconds after a stroke in which there is no other
const LOUD = 0.012; // seconds in which a stroke is loudest

class Band {
  constructor(now, rise, floor, swings) {
    this.now = now;
    this.swings = swings; // is its wave as slow as a stroke?
    this.rise = rise;
    this.floor = floor;
    this.energy = 0;
    this.moments = []; // the energies of the last ones
    this.means = []; // and of so many together
    this.room = LEAST;
  }

  // The moment is over: was something struck in it?
  struck(most) {
    this.moments.push(this.energy / HOP);
    this.energy = 0;
    if (this.moments.length > this.now) this.moments.shift();
    const here = this.moments.reduce((sum, one) => sum + one, 0) / this.now;
    const earlier = this.means.slice(this.swings ? 0 : -this.now - FEW, -this.now);
    const before = this.swings ? Math.max(0, ...earlier) : earlier.reduce((sum, one) => sum + one, 0) / FEW;
    const full = this.means.length >= BEFORE;
    this.means.push(here);
    if (this.means.length > BEFORE + this.now) this.means.shift();
    const loud = here > this.floor * this.room && here > LEAST && here > SHARE * most;
    const rose = full && loud && here > this.rise * before;
    const there = Math.min(here, ODD * this.room); // a stroke is not the room
    this.room += (there < this.room ? FALLS : GROWS) * (there - this.room);
    return rose;
  }
}

class Onsets extends AudioWorkletProcessor {
  constructor() {
    super();
    this.bands = NOW.map((now, place) => new Band(now, RISES[place], FLOORS[place], place !== 4 && place !== 5));
    this.follow = EDGES.map((hertz) => 1 - Math.exp((-2 * Math.PI * hertz) / sampleRate));
    this.low = EDGES.map(() => 0); // twice, for a steeper edge
    this.lower = EDGES.map(() => 0);
    this.last = 0; // sample, for the difference
    this.most = 0; // energy of all of it, falling slowly
    this.filled = 0;
    this.rested = 0; // time from which on a stroke can be heard
    this.stroke = null; // { at, level } that is still getting louder
  }

  process([[samples]]) {
    if (!samples) return true;
    const { bands, follow, low, lower } = this;
    for (let n = 0; n < samples.length; n += 1) {
      const sample = samples[n];
      let under = 0;
      for (let edge = 0; edge < follow.length; edge += 1) {
        low[edge] += follow[edge] * (sample - low[edge]);
        lower[edge] += follow[edge] * (low[edge] - lower[edge]);
        const band = lower[edge] - under;
        under = lower[edge];
        bands[edge].energy += band * band;
      }
      const rest = sample - under, whole = sample - BRIGHT * this.last;
      bands[follow.length].energy += rest * rest;
      bands[follow.length + 1].energy += whole * whole;
      this.last = sample;
      if (this.stroke) this.stroke.level = Math.max(this.stroke.level, Math.abs(sample));
      this.filled += 1;
      if (this.filled === HOP) this.looked(currentTime + (n + 1 - HOP) / sampleRate);
    }
    return true;
  }

  looked(at) {
    this.filled = 0;
    if (this.stroke && at > this.stroke.at + LOUD) {
      const level = Math.max(1, Math.min(127, Math.round(127 * this.stroke.level)));
      this.port.postMessage([this.stroke.at, level]);
      this.stroke = null;
    }
    const all = this.bands.reduce((sum, band) => sum + band.energy, 0) / HOP;
    this.most = Math.max(all, this.most * 0.98);
    const struck = this.bands.filter((band) => band.struck(this.most));
    if (struck.length && at >= this.rested) {
      const moments = Math.min(...struck.map((band) => band.now)) - QUICKEST; // the longer, the later it is seen
      this.stroke = { at: at - (moments * HOP) / 2 / sampleRate, level: 0 };
      this.rested = at + REST;
    }
  }
}

registerProcessor("onsets", Onsets);
