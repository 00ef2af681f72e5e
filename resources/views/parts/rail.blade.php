{{-- Who is bound to a tenant has drafts and reports of their own, and no servers and history of everybody. --}}
@php
  $bound = auth()->user()->isBound();
@endphp
<nav class="rail" aria-label="Work">
  <a class="post" href="{{ at('bridge') }}" @if (($verb ?? '') === '') aria-current="page" @endif><svg viewBox="0 0 24 24" role="img"
      aria-label="Harbor Post, the bridge">
      <path
        d="M8.5 21V9.5h7V21M7 9.5h10M7.5 6.5q4.5-3 9 0v3h-9zM5 21h14M8.5 13.5c4 2.5 8.5.5 11.500-1.5M8.500 16.500c4 2.500 8.500.500 11.500-1.500" />
    </svg></a>
  <a href="{{ at('plan') }}" @if (($verb ?? '') === 'plan') aria-current="page" @endif><svg aria-hidden="true" viewBox="0 0 22 22">
      <circle cx="11" cy="4" r="1.8" />
      <path d="M10.3 5.7 6 19M11.7 5.7 16 19M8 13q3 1.6 6 0" />
    </svg>Plan</a>
  <a href="{{ at('name') }}" @if (($verb ?? '') === 'name') aria-current="page" @endif><svg aria-hidden="true" viewBox="0 0 22 22">
      <path d="M5 2.5v17M5 4l13 4.5L5 13M10 6v5" />
    </svg>Name</a>
  <a href="{{ at('lease') }}" @if (($verb ?? '') === 'lease') aria-current="page" @endif><svg aria-hidden="true" viewBox="0 0 22 22">
      <path d="M5.5 3h11M5.5 19h11M7 3c0 5 8 6 8 8s-8 3-8 8M15 3c0 5-8 6-8 8s8 3 8 8M9 17h4" />
    </svg>Lease</a>
  <a href="{{ $bound ? at('ship.drafts') : at('ship') }}" @if (($verb ?? '') === 'ship') aria-current="page" @endif><svg aria-hidden="true" viewBox="0 0 22 22">
      <path d="M2.5 14h17l-2.8 5H5.3zM11 14V3M7.5 6.5 11 3l3.5 3.5" />
    </svg>Ship</a>
  <a href="{{ $bound ? at('watch.reports') : (($calling ?? 0) > 0 ? at('watch.notices') : at('watch')) }}"
    @if (($verb ?? '') === 'watch') aria-current="page" @endif><svg aria-hidden="true" viewBox="0 0 22 22">
      <path d="m2.5 14.5 4-1.6 1.4 3.6-4 1.6zM7 12.6l6.5-2.7 1.6 4.1-6.6 2.5zM13.7 9.4l4.6-2.1 2.2 5.2-4.8 1.7zM10.5 16.5 8.5 20m2.6-3.7 2.4 3.7" />
    </svg>Watch
    @if (($calling ?? 0) > 0)
      <span class="badge" aria-label="{{ $calling === 1 ? '1 notice calls' : "$calling notices call" }}">{{ $calling > 99 ? '99+' : $calling }}</span>
    @endif
  </a>
  <a href="{{ at('directory') }}" @if (($verb ?? '') === 'directory') aria-current="page" @endif><svg aria-hidden="true" viewBox="0 0 22 22">
      <path d="M11 5.5C9 4 6 3.5 3 4v13c3-.5 6 0 8 1.5 2-1.5 5-2 8-1.5V4c-3-.5-6 0-8 1.5zM11 5.5v13" />
    </svg>Directory</a>
</nav>
