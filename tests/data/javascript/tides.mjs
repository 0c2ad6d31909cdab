export default function (n) { let r = 1; for (let i = 0; i < n; i++) r *= 2; return r }
export const other = n => n + 10;
