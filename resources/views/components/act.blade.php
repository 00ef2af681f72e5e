@props(['id', 'action', 'seen' => [], 'live' => true, 'stay' => null])
{{-- A form of an act: with script, What follows is computed on every change; without, its own button shows it. --}}
@php($barred = App\Http\Frame::bars($action))
@if ($barred)
  <p class="hint">@mark('stop') Not available to you: your roles do not include this here. A steward can change that.</p>
@else
<form id="{{ $id }}" method="post" action="{{ at('act', $action) }}" {{ $attributes->class('form') }}
  @if ($live) hx-post="{{ at('act', $action) }}" hx-trigger="hp:look" hx-target="#follows-{{ $id }}" hx-swap="innerHTML" hx-sync="this:queue last" @endif>
  @csrf
  <input type="hidden" name="_form" value="{{ $id }}">
  @if ($stay)
    <input type="hidden" name="stay" value="{{ $stay }}">
  @endif
  @foreach ($seen as $object => $version)
    <input type="hidden" name="seen[{{ $object }}]" value="{{ $version }}">
  @endforeach
  {{ $slot }}
</form>
@endif
