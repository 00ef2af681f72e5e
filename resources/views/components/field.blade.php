@props(['form', 'name', 'label', 'value' => '', 'type' => 'text', 'options' => null, 'hint' => null, 'mono' => false, 'blank' => null, 'rows' => null, 'multiple' => false])
@php
    $key = rtrim($name, '[]');
    $now = old('_form') === $form ? old($key, $value) : $value;
    $for = $form.'-'.$key;
@endphp
<div class="field"><span><label for="{{ $for }}">{{ $label }}</label></span>
@if($options !== null)
<select id="{{ $for }}" name="{{ $name }}" @if($multiple) multiple size="{{ min(5, max(2, count($options))) }}" @endif {{ $attributes }}>@if($blank !== null)<option value="">{{ $blank }}</option>@endif
@foreach($options as $id => $text)<option value="{{ $id }}" @selected(is_array($now) ? in_array((string) $id, $now, true) : (string) $id === (string) $now)>{{ $text }}</option>@endforeach</select>
@elseif($rows !== null)
<textarea id="{{ $for }}" name="{{ $name }}" rows="{{ $rows }}" spellcheck="false" {{ $attributes->class(['mono' => $mono]) }}>{{ is_array($now) ? implode("\n", $now) : $now }}</textarea>
@else
<input id="{{ $for }}" type="{{ $type }}" name="{{ $name }}" value="{{ $type === 'password' ? '' : $now }}" spellcheck="false" {{ $attributes->merge(['autocomplete' => 'off'])->class(['mono' => $mono]) }}>
@endif
@if($hint)<span class="hint">{{ $hint }}</span>@endif</div>
