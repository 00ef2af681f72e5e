{{-- A lane of blocks. $blocks, $y, $height; every block is drawn in percent and its text in px. --}}
<svg class="lane" y="{{ $y }}" height="{{ $height }}" width="100%">
@foreach($blocks as $b)
@php
    $room = $b->room();
    $line = $b->level === null ? null : $height * (1 - $b->level / 100);
    // Labels step around the waterline: name, prefix, figure, top to bottom; the gap falls where the line is.
    $slots = $line === null || $line < 10 ? [20, 35, $height - 8] : ($line < 24 ? [$line + 15, $line + 29, $height - 8] : ($line < 42 ? [19, $line + 14, $height - 8] : [19, 34, $height - 8]));
    if ($line !== null && $line > $slots[2] - 13 && $line < $slots[2] + 4) { $slots[2] = $line - 6; }
    $wide = $room > max(strlen($b->name) * 6.6, strlen($b->code) * 6.6) + 16;
    $named = $room > strlen($b->name) * 6.4 + 12;
@endphp
@if($b->href)<a href="{{ $b->href }}">@elseif($b->choose)<a href="?prefix={{ urlencode($b->choose) }}#carve" data-choose-prefix="{{ $b->choose }}">@endif
<svg class="{{ $b->look }}" x="{{ $b->pct($b->x) }}" width="{{ $b->pct($b->width) }}"><title>{{ $b->title }}</title>
@if($b->level !== null && $b->level > 0)<rect class="water" y="{{ $b->pct(100 - $b->level) }}" width="100%" height="{{ $b->pct($b->level) }}"/>@if($b->fill === null)<line class="level" x2="100%" y1="{{ $b->pct(100 - $b->level) }}" y2="{{ $b->pct(100 - $b->level) }}"/>@endif @endif
@if($b->fill)<rect class="{{ $b->fill }}" width="100%" height="100%"/>@elseif($b->kind === 'strata')<rect class="layers" width="100%" height="100%"/>@endif
@if($b->kind !== 'open')<rect class="outline"/>@else<rect class="outline" fill="none"/>@endif
@if($b->kind === 'open')
@if($room > 64)<text class="it mid @if($room > 130) big @endif" x="50%" y="{{ $height / 2 }}">{{ $b->short }} open</text>@if($room > strlen($b->code) * 6.6 + 10)<text class="mono sub mid" x="50%" y="{{ $height / 2 + 15 }}">{{ $b->code }}</text>@endif
@elseif($room > 26)<text class="it mid" x="50%" y="{{ $height / 2 }}">{{ $b->short }}</text>@if($room > 34)<text class="it mid" x="50%" y="{{ $height / 2 + 14 }}">open</text>@endif @endif
@elseif($b->kind === 'strata')
@if($room > 74)<text class="mid" x="50%" y="{{ $height / 2 }}">{{ $b->name }}</text><text class="mono sub mid" x="50%" y="{{ $height / 2 + 15 }}">{{ $b->code }}</text>@elseif($room > 20)<text class="mid" x="50%" y="{{ $height / 2 + 4 }}">{{ $b->short }}</text>@endif
@elseif($wide)
<text class="nm" x="9" y="{{ $slots[0] }}">{{ $b->name }}</text><text class="mono sub" x="9" y="{{ $slots[1] }}">{{ $b->code }}</text><text x="9" y="{{ $slots[2] }}">{{ $b->figure }}</text>@if($b->high)<use class="warn" href="#m-warn" x="{{ 14 + strlen($b->figure) * 7 }}" y="{{ $slots[2] - 10 }}" width="12" height="12"/>@endif
@elseif($named)
<text class="nm" x="6" y="{{ $slots[0] }}">{{ $b->name }}</text><text class="mono sub" x="6" y="{{ $slots[1] }}">{{ $b->short }}</text><text x="6" y="{{ $slots[2] }}">{{ $b->figure }}</text>@if($b->high)<use class="warn" href="#m-warn" x="{{ 10 + strlen($b->figure) * 7 }}" y="{{ $slots[2] - 10 }}" width="12" height="12"/>@endif
@elseif($room > 30)
<text class="mono mid" x="50%" y="{{ $slots[0] }}">{{ $b->short }}</text><text class="mid" x="50%" y="{{ $slots[2] }}">{{ $room > strlen($b->figure) * 6.5 ? $b->figure : '' }}</text>
@endif
</svg>@if($b->href || $b->choose)</a>@endif
@endforeach
</svg>
