@props(['form', 'name', 'label', 'on' => false])
@php
  $now = old('_form') === $form ? old($name) === '1' : $on;
@endphp
<label class="tick"><input type="checkbox" name="{{ $name }}" value="1" @checked($now)>{{ $label }}</label>
