// A take: columns in typed arrays, and what its check found.

class Take {
  constructor(data, number) {
    this.number = number;
    this.check = data.check;
    this.name = data.check.take;
    this.swings = data.swings;
    const spans = stretches(data.ticks);
    this.stretches = spans;
    this.length = spans.length === 0 ? 0 : spans.at(-1).before + spans.at(-1).count;
    this.ticks = new Float64Array(this.length);
    for (const { first, count, before } of spans) {
      for (let i = 0; i < count; i += 1) this.ticks[before + i] = first + i;
    }
    this.tracks = data.tracks.map((track) => new Track(track, data.steps_per_px));
    this.findings = data.check.findings.map((finding, index) => ({ ...finding, number: index + 1 }));
    const key = (of) => JSON.stringify([of.rule, of.subject, of.with, of.first_tick ?? of.ticks[0]]);
    const known = new Set(this.findings.map(key));
    for (const finding of this.findings) finding.follows = finding.after != null && known.has(key(finding.after));
  }

  // The place of a tick in the take, or of the last one before it.
  indexOf(tick) {
    let low = 0;
    let high = this.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (this.ticks[middle] <= tick) low = middle;
      else high = middle - 1;
    }
    return low;
  }

  // Who is there, and how.
  seenAt(index) {
    const seen = [];
    for (const track of this.tracks) {
      const one = track.at(index);
      if (one) seen.push(one);
    }
    return seen;
  }

  findingsAt(tick) {
    return this.findings.filter((finding) => finding.ticks[0] <= tick && tick <= finding.ticks[1]);
  }
}

class Track {
  constructor(data, scale) {
    this.label = data.label;
    this.actor = data.actor;
    this.present = stretches(data.present);
    const last = this.present.at(-1);
    const count = last ? last.before + last.count : 0;
    this.x = differences(data.x, count, scale);
    this.y = differences(data.y, count, scale);
    this.pose = runs(data.pose, count);
    this.states = runs(data.states, count);
    this.walked = 0;
    for (let i = 1; i < count; i += 1) this.walked += Math.abs(this.x[i] - this.x[i - 1]);
    this.grounded = data.grounded;
    this.groundedIsSaid = data.grounded_is_said;
  }

  at(index) {
    const of = stretchOf(this.present, index);
    if (of === null) return null;
    const i = of.before + index - of.first;
    return { track: this, label: this.label, actor: this.actor, x: this.x[i], y: this.y[i], pose: this.pose[i], states: this.states[i] };
  }
}

const data = JSON.parse(document.getElementById("data").textContent);
const takeBlocks = [...document.querySelectorAll('script[type="application/json"][id^="take-"]')];

function loadTake(number) {
  return new Take(JSON.parse(takeBlocks[number - 1].textContent), number);
}

// What layers say of a shape while states last.
const partyByName = new Map(data.layers.parties.map((party) => [party.name, party]));

function kindOf(name, states) {
  const party = partyByName.get(name);
  return party ? (party.kinds[states] ?? party.kinds[0]) : null;
}
