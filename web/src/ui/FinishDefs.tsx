/** Textures of the finishes, once a page; millimetres, so that they scale with the cookie. */
export function FinishDefs() {
  return (
    <svg width="0" height="0" className="absolute" aria-hidden="true">
      <defs>
        <pattern id="strip-wet" width="14" height="14" patternUnits="userSpaceOnUse" patternTransform="rotate(-24)">
          <rect x="2" y="0" width="5" height="14" fill="#fff" opacity="0.75" stroke="#000" strokeOpacity="0.3" strokeWidth="0.7" />
        </pattern>
        <pattern id="strip-thickening" width="14" height="14" patternUnits="userSpaceOnUse" patternTransform="rotate(-24)">
          <rect x="2" y="0" width="2.5" height="14" fill="#fff" opacity="0.7" stroke="#000" strokeOpacity="0.3" strokeWidth="0.7" />
        </pattern>
        <pattern id="strip-skinned" width="12" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(-24)">
          <rect x="1" y="0" width="2.2" height="4" fill="#fff" opacity="0.7" stroke="#000" strokeOpacity="0.3" strokeWidth="0.7" />
        </pattern>
        <pattern id="strip-crusted" width="40" height="3" patternUnits="userSpaceOnUse">
          <rect x="0" y="0" width="40" height="1.2" fill="#fff" opacity="0.4" />
          <rect x="0" y="1.2" width="40" height="0.5" fill="#000" opacity="0.16" />
        </pattern>
        <pattern id="strip-set" width="7" height="7" patternUnits="userSpaceOnUse">
          <circle cx="2" cy="2" r="1" fill="#000" opacity="0.3" />
          <circle cx="5.5" cy="5.5" r="1" fill="#fff" opacity="0.5" />
        </pattern>
        <pattern id="strip-firm" width="3.4" height="3.4" patternUnits="userSpaceOnUse">
          <circle cx="1" cy="1" r="0.7" fill="#000" opacity="0.35" />
          <circle cx="2.6" cy="2.6" r="0.7" fill="#fff" opacity="0.4" />
        </pattern>
      </defs>
    </svg>
  );
}
