<svg class="defs" aria-hidden="true">
  <defs>
    <symbol id="m-ok" viewBox="0 0 14 14">
      <circle cx="7" cy="7" r="6" fill="none" stroke="currentColor" stroke-width="1.5" />
      <path d="m4.2 7.2 2 2 3.6-4" fill="none" stroke="currentColor" stroke-width="1.6" />
    </symbol>
    <symbol id="m-warn" viewBox="0 0 14 14">
      <path d="M7 1.2 13.3 12.6H.7z" fill="var(--amber-mark)" stroke="currentColor" stroke-width="1.2" stroke-linejoin="round" />
      <path d="M7 5v4M7 10.2v1.2" stroke="var(--on-amber)" stroke-width="1.5" />
    </symbol>
    <symbol id="m-stop" viewBox="0 0 14 14">
      <path d="M7 .8 13.2 7 7 13.2.8 7z" fill="none" stroke="currentColor" stroke-width="1.5" />
      <path d="m5 5 4 4m0-4L5 9" stroke="currentColor" stroke-width="1.5" />
    </symbol>
    <symbol id="m-add" viewBox="0 0 14 14">
      <rect x="1" y="1" width="12" height="12" fill="none" stroke="currentColor" stroke-width="1.3" />
      <path d="M7 4v6M4 7h6" stroke="currentColor" stroke-width="1.6" />
    </symbol>
    <symbol id="m-cut" viewBox="0 0 14 14">
      <rect x="1" y="1" width="12" height="12" fill="none" stroke="currentColor" stroke-width="1.3" stroke-dasharray="2.5 1.5" />
      <path d="M4 7h6" stroke="currentColor" stroke-width="1.6" />
    </symbol>
    <symbol id="m-turn" viewBox="0 0 14 14">
      <rect x="1" y="1" width="12" height="12" fill="none" stroke="currentColor" stroke-width="1.3" />
      <path d="M3.5 8c1.2-2.6 2.4-2.6 3.5-1s2.3 1.6 3.5-1" fill="none" stroke="currentColor" stroke-width="1.6" />
    </symbol>
    <symbol id="m-wait" viewBox="0 0 14 14">
      <circle cx="7" cy="7" r="6" fill="none" stroke="currentColor" stroke-width="1.3" />
      <path d="M7 3.5v3.8l2.5 1.5" fill="none" stroke="currentColor" stroke-width="1.5" />
    </symbol>
    <symbol id="to" viewBox="0 0 13 9">
      <path d="M0 4.5h11M8 1l3.5 3.5L8 8" fill="none" stroke="currentColor" stroke-width="1.4" />
    </symbol>
    <g id="datum">
      <path d="M-19-7h8l-4 6.5z" fill="var(--surface)" stroke="var(--waterline)" stroke-width="1.2" />
      <path d="M-18 3h6m-4.5 2.5h3" stroke="var(--waterline)" />
    </g>
    <pattern id="diag" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <path class="hatch-line" d="M.5 0v7" />
    </pattern>
    <pattern id="cross" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <path class="hatch-line" d="M.5 0v7M0 .5h7" />
    </pattern>
    <pattern id="waves" width="34" height="18" patternUnits="userSpaceOnUse">
      <path class="wavelet" d="M3 6q3-3 6 0t6 0M20 15q3-3 6 0t6 0" />
    </pattern>
    <marker id="head" viewBox="0 0 8 8" refX="7.5" refY="4" markerWidth="8" markerHeight="8" markerUnits="userSpaceOnUse"
      orient="auto">
      <path d="M0 .5 7.5 4 0 7.5z" fill="context-stroke" />
    </marker>
    <pattern id="layers" width="40" height="6" patternUnits="userSpaceOnUse">
      <path class="stratum" d="M0 .5h40" />
    </pattern>
  </defs>
</svg>
