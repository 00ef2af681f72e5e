@props(['id', 'action', 'input', 'target' => '', 'label', 'of' => ''])
{{-- A button that shows what follows from taking one thing away: in the slot of the form that makes such things, or on a page of its own. --}}
<form id="{{ $id }}" method="post" action="{{ at('act', $action) }}"
  {{ $attributes->merge($target === '' ? [] : ['hx-post' => at('act', $action), 'hx-target' => $target]) }}>
  @csrf
  <input type="hidden" name="_form" value="{{ $id }}">
  @foreach ($input as $name => $value)
    <input type="hidden" name="{{ $name }}" value="{{ $value }}">
  @endforeach
  <button class="btn stop small" name="then" value="preview">{{ $label }}@if ($of !== '')
      <span class="sr"> {{ $of }}</span>
    @endif
  </button>
</form>
