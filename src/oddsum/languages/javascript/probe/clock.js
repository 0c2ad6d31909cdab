/* How long it has computed. */
"use strict";

const { cpuUsage } = outside.process; // as it was before the program could put something in its place

/** Seconds of the processor that this process has used. */
exported.secondsUsed = function secondsUsed() {
  const used = cpuUsage();
  return (used.user + used.system) / 1e6;
};
