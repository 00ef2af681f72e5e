@props(['name', 'say' => null])
<svg {{ $attributes->class(['m', $name, 'ok' => $name === 'ok']) }} @if($say) role="img" aria-label="{{ $say }}" @else aria-hidden="true" @endif><use href="#m-{{ $name }}"/></svg>
