// Numbers as the program packs them: 7 bits a byte, the lowest first; signed ones as 0, -1, 1, -2, ...

class Numbers {
  constructor(text) {
    const raw = atob(text);
    this.bytes = new Uint8Array(raw.length);
    for (let i = 0; i < raw.length; i += 1) this.bytes[i] = raw.charCodeAt(i);
    this.at = 0;
  }

  get isAtEnd() {
    return this.at >= this.bytes.length;
  }

  // Places times steps go beyond 32 bits, so no shifts.
  next() {
    let number = 0;
    let weight = 1;
    for (;;) {
      const byte = this.bytes[this.at];
      this.at += 1;
      number += (byte & 0x7f) * weight;
      if (byte < 0x80) return number;
      weight *= 128;
    }
  }

  nextSigned() {
    const code = this.next();
    return code % 2 === 0 ? code / 2 : -(code + 1) / 2;
  }
}

// Stretches of numbers that follow each other: where each begins, how long it is, and how many came before it.
function stretches(text) {
  const numbers = new Numbers(text);
  const found = [];
  let next = 0;
  let before = 0;
  while (!numbers.isAtEnd) {
    next += numbers.next();
    const count = numbers.next();
    found.push({ first: next, count, before });
    next += count;
    before += count;
  }
  return found;
}

function differences(text, count, scale) {
  const numbers = new Numbers(text);
  const found = new Float64Array(count);
  let last = 0;
  for (let i = 0; i < count; i += 1) {
    last += numbers.nextSigned();
    found[i] = last / scale;
  }
  return found;
}

function runs(text, count) {
  const numbers = new Numbers(text);
  const found = new Uint32Array(count);
  let at = 0;
  while (!numbers.isAtEnd) {
    const number = numbers.next();
    const end = at + numbers.next();
    found.fill(number, at, end);
    at = end;
  }
  return found;
}

// The stretch that holds a number, or null.
function stretchOf(list, number) {
  let low = 0;
  let high = list.length - 1;
  while (low <= high) {
    const middle = (low + high) >> 1;
    const of = list[middle];
    if (number < of.first) high = middle - 1;
    else if (number >= of.first + of.count) low = middle + 1;
    else return of;
  }
  return null;
}
