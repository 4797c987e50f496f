// What is counted by the client and led by a beat: how many are done, which beat it is; drawn anew when one changes.

export function counting({ beatS, beats = Infinity, changed }) {
  const now = { count: 0, beat: -1 };
  const to = (what, value) => {
    if (now[what] === value) return;
    now[what] = value;
    changed();
  };
  return {
    now,
    told: {
      add() {},
      counted: (count) => to("count", count),
      tick: (gone) => beatS && to("beat", Math.floor(gone / beatS) % beats),
    },
  };
}
