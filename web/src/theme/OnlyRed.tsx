/** What Ember shows of a photograph: its light in red alone. Every page holds it once; styles name it. */
export function OnlyRed() {
  return (
    <svg width="0" height="0" style={{ position: "absolute" }} aria-hidden="true">
      <filter id="only-red" colorInterpolationFilters="sRGB">
        <feColorMatrix values="0.3 0.6 0.1 0 0  0 0 0 0 0  0 0 0 0 0  0 0 0 1 0" />
      </filter>
    </svg>
  );
}
