// A recording beside the notes. Two players take turns: while one sounds, the other runs up unheard to
// the place where the next round begins, for a start and a jump take longer than a beat. Each is kept
// at its place all the time, by a speed a little higher or lower, which nobody hears.
(function () {
  "use strict";
  const RUN_UP = 0.9; // seconds that it runs unheard before its round
  const PARKING = 0.05; // seconds that a jump takes
  const SOON = 0.06; // seconds before its start in which that is set to the millisecond
  const HEARD = 0.06; // seconds before its round from which it may be heard: an attack is never cut
  const UNHEARD = 0.001; // nearly: what is silenced whole loses its place in some browsers
  const NEAR = 0.011, THERE = 0.003; // seconds off from which it is pulled, and until when
  const PULL = 3; // how much of what it is off a second takes back
  const LEAST = 0.01, MOST = 0.1; // of the speed, more or less
  const LOST = 0.4; // seconds off: it jumps instead
  const SETTLED = 0.12; // seconds after a start or a jump until its place is believed

  // A stretch: from ``at`` on, as it is heard, ``second`` to ``until`` of the recording at ``rate``.
  const place = ({ at, second, rate }, now) => second + (now - at) * rate;

  // One player of the recording, which follows one stretch at a time.
  class Follower {
    constructor(element, clock, learned) {
      this.element = element;
      this.now = clock.now;
      this.later = clock.later;
      this.learned = learned;
      this.stretch = null;
    }

    get lead() { return this.learned.lead; }

    take(stretch, now) {
      const before = this.stretch;
      this.stretch = stretch;
      const on = before && this.believed && Math.abs(place(before, now) - place(stretch, now)) < LOST;
      if (!on) this.park(now);
    }

    // It stands where it will start to run.
    park(now) {
      const { at, second, rate } = this.stretch;
      const left = at - now - this.lead - PARKING;
      this.early = Math.max(0, Math.min(RUN_UP, second / rate, left));
      this.believed = null; // from when on its place is
      this.element.pause();
      this.element.currentTime = second - this.early * rate;
      this.element.playbackRate = rate;
    }

    rest() {
      this.stretch = null;
      this.element.pause();
    }

    tick(now, loudness) {
      const { element, stretch } = this;
      if (!stretch) return;
      if (!this.believed) { this.start(now); return; }
      element.volume = now < stretch.at - HEARD ? UNHEARD * loudness : loudness;
      const second = place(stretch, now);
      if (second >= stretch.until) this.rest();
      else if (now >= this.believed && !element.paused) this.pull(second - element.currentTime, second, now);
    }

    // To the millisecond: what is asked many times a second would be late by one time.
    start(now) {
      const { element, stretch } = this;
      const starts = stretch.at - this.early - this.lead;
      if (now < starts - SOON) return;
      this.believed = starts + this.lead + SETTLED;
      this.later(starts - now, () => {
        if (this.stretch !== stretch) return;
        element.volume = UNHEARD;
        element.preservesPitch = true;
        Promise.resolve(element.play()).catch(() => {});
        this.started = this.now() - starts; // how much later than it should
      });
    }

    pull(off, second, now) {
      const { element, stretch } = this;
      if (this.started !== null && Math.abs(off) < LOST) {
        this.learned.lead = Math.min(LOST, Math.max(0, this.lead + off / stretch.rate - this.started));
      }
      this.started = null;
      if (Math.abs(off) > LOST) {
        element.currentTime = second + this.lead * stretch.rate;
        this.believed = now + this.lead + SETTLED;
        return;
      }
      this.pulled = Math.abs(off) > (this.pulled ? THERE : NEAR);
      const by = this.pulled ? Math.sign(off) * Math.min(MOST, Math.max(LEAST, PULL * Math.abs(off))) : 0;
      const rate = stretch.rate * (1 + by);
      if (Math.abs(element.playbackRate - rate) > 0.001) element.playbackRate = rate;
    }
  }

  class Along {
    // ``elements``: two media elements of the same recording; the clock's ``now`` answers seconds as
    // they are heard, its ``later`` acts in some; ``loudness`` is what the player was turned to.
    constructor(elements, clock, loudness) {
      const learned = { lead: 0.08 }; // seconds from play() to the first sound: every start tells it
      this.players = elements.map((element) => new Follower(element, clock, learned));
      this.now = clock.now;
      this.loudness = loudness;
      this.next = null; // what the one that waits will play
    }

    get sounding() { return this.players[0]; }
    get waiting() { return this.players[1]; }

    // A round begins ``at``; ``again``: when the one after it will, if nothing is changed.
    opens(at, { second, until, rate, again }) {
      this.again = again;
      this.await({ at, second, until, rate });
    }

    await(stretch) {
      this.next = stretch;
      this.waiting.take(stretch, this.now());
    }

    // Faster or slower from ``at`` on.
    paced(at, rate) {
      const { stretch } = this.sounding;
      if (!stretch) return;
      this.again = at + ((this.again - at) * stretch.rate) / rate;
      this.sounding.stretch = { ...stretch, at, second: place(stretch, at), rate };
      if (this.next && this.next.foreseen) this.await({ ...this.next, rate, at: this.again });
    }

    // Asked many times a second while it sounds.
    tick() {
      const now = this.now();
      for (const one of this.players) one.tick(now, this.loudness());
      if (!this.next || this.next.foreseen || now < this.next.at) return;
      this.players.reverse();
      this.await({ ...this.next, at: this.again, foreseen: true });
    }

    stop() {
      this.next = null;
      for (const one of this.players) one.rest();
    }
  }

  // The page's player and its double.
  function along(audio, now) {
    const doubles = [audio, audio].map(() => Object.assign(new Audio(audio.src), { preload: "auto" }));
    const later = (seconds, act) => setTimeout(act, 1000 * seconds);
    return new Along(doubles, { now, later }, () => (audio.muted ? 0 : audio.volume));
  }

  Object.assign(window.wren, { Along, along });
})();
