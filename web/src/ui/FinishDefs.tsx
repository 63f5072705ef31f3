/** Textures of the finishes, once a page; millimetres, so that they scale with the cookie. */
export function FinishDefs() {
  return (
    <svg width="0" height="0" className="absolute" aria-hidden="true">
      <defs>
        <pattern id="finish-matte" width="2.4" height="2.4" patternUnits="userSpaceOnUse">
          <circle cx="0.6" cy="0.6" r="0.28" fill="#000" opacity="0.16" />
          <circle cx="1.8" cy="1.8" r="0.28" fill="#fff" opacity="0.3" />
        </pattern>
        <pattern id="finish-grain" width="1.3" height="1.3" patternUnits="userSpaceOnUse" patternTransform="rotate(30)">
          <circle cx="0.3" cy="0.3" r="0.2" fill="#000" opacity="0.22" />
          <circle cx="0.95" cy="0.9" r="0.2" fill="#fff" opacity="0.32" />
        </pattern>
        <pattern id="finish-sugar" width="1.7" height="1.7" patternUnits="userSpaceOnUse" patternTransform="rotate(20)">
          <circle cx="0.4" cy="0.5" r="0.3" fill="#fff" stroke="#000" strokeOpacity="0.25" strokeWidth="0.1" />
          <circle cx="1.3" cy="1.25" r="0.24" fill="#fff" stroke="#000" strokeOpacity="0.25" strokeWidth="0.1" />
        </pattern>
        <pattern id="finish-crackle" width="9" height="8" patternUnits="userSpaceOnUse">
          <path
            d="M0 2L2.5 3.2L4 1L6.8 2.4L9 2M2.5 3.2L3.4 6L1 8M3.4 6L6.6 5.6L9 7M6.8 2.4L6.6 5.6M4 1L3.6 0M1 0L0 0.9"
            fill="none"
            stroke="#000"
            strokeOpacity="0.5"
            strokeWidth="0.35"
          />
          <path d="M0.3 2.5L2.4 3.7L4 1.6L6.6 2.9" fill="none" stroke="#fff" strokeOpacity="0.4" strokeWidth="0.25" />
        </pattern>
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
