// Stop signs: told before anything else, kept until they are told, never forgotten for practicing.

export function stopSigns({ session, open, move, step, leave }) {
  // One that could not be told yet: nothing is practiced before it is.
  let untold = null;

  async function raise(sign, flag = null) {
    if (!session.bundle) await open();
    untold = session.bundle ? null : { sign, flag };
    if (untold) return move("trouble", { words: gettext("This could not be told to the clinic from here. Rest your voice and call.") });
    const told = { kind: "stop", value: sign, stepId: step() };
    await session.say(told, ...(flag ? [{ kind: "before", value: { flags: [flag] } }] : []));
    return leave();
  }

  return {
    raise,
    // Tells again what could not be told; false where there is nothing.
    again() {
      if (untold) raise(untold.sign, untold.flag);
      return Boolean(untold);
    },
  };
}
