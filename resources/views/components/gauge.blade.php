@props(['percent', 'figure', 'high' => false])
@php($fill = round(min(100, $percent), 1))
<svg class="gauge" aria-hidden="true"><rect class="water" x="4" y="{{ 100 - $fill }}%" width="14" height="{{ $fill }}%"/>@if($fill > 0)<line class="level" x1="4" x2="18" y1="{{ 100 - $fill }}%" y2="{{ 100 - $fill }}%"/>@endif<path class="staff" d="M4 0v20h14V0M1 5h3M1 10h3M1 15h3"/></svg>{{ $figure }}@if($high) <x-mark name="warn" say="high water"/>@endif
