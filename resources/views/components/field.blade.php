@aware(['action' => ''])
@props([
    'form',
    'name',
    'label',
    'value' => '',
    'type' => 'text',
    'options' => null,
    'hint' => null,
    'mono' => false,
    'blank' => null,
    'rows' => null,
    'multiple' => false,
    'pick' => null,
    'only' => '',
    'shown' => '',
    'none' => '',
    'bare' => false,
])
@php
      $key = rtrim($name, '[]');
      $now = old('_form') === $form ? old($key, $value) : $value;
      $for = $form.'-'.$key;
      $fault = old('_form') === $form ? $errors->first($key) : '';
      // A form knows what its act takes: nothing longer can be typed.
      $act = \App\Acts\Registry::find($action);
      $most = $act === null ? null : (\App\Acts\Engine\Inputs::of($act)[$key] ?? null)?->mostTyped();
      // In a row the head of the column is the label before the eye, and the form stands elsewhere.
      $row = $bare ? ['form' => $form, 'data-was' => is_array($value) ? '' : ($pick === null ? (string) $value : $shown)] : [];
      $marks = $row + ($fault === '' ? [] : ['aria-invalid' => 'true', 'aria-describedby' => "$for-fault"]) + ($most === null ? [] : ['maxlength' => $most]);
@endphp
@if ($multiple && $options !== null)
  <fieldset class="field">
    <legend @class(['sr' => $bare])>{{ $label }}</legend>
    @if ($bare)
      {{-- None chosen is said too: nothing sent would leave it as it is. --}}
      <input type="hidden" name="{{ $name }}" value="" form="{{ $form }}">
    @endif
    <div class="ticks" {{ $attributes }}>
      @forelse($options as $id => $text)
        <label class="tick"><input type="checkbox" name="{{ $name }}" value="{{ $id }}" @if ($bare) form="{{ $form }}" @endif
            @checked(in_array((string) $id, array_map(strval(...), (array) $now), true))>{{ $text }}</label>
      @empty
        <span class="hint">none yet</span>
      @endforelse
    </div>
    @if ($hint)
      <span class="hint">{{ $hint }}</span>
    @endif
  </fieldset>
@else
  <div @class(['field', 'bare' => $bare])><span @class(['sr' => $bare])><label for="{{ $for }}">{{ $label }}</label></span>
    @if ($pick !== null)
      <div class="picker" data-pick="{{ $pick }}" @if ($only !== '') data-only="{{ $only }}" @endif
        @if ($none !== '') data-none="{{ $none }}" @endif>
        <input type="hidden" name="{{ $name }}" value="{{ $now }}" data-picked-id @if ($bare) form="{{ $form }}" @endif>
        <input id="{{ $for }}" type="text" value="{{ $now === $value ? $shown : $now }}" spellcheck="false" autocomplete="off"
          placeholder="{{ $blank }}" role="combobox" aria-expanded="false" aria-autocomplete="list" aria-controls="{{ $for }}-list"
          {{ $attributes->merge($marks)->class(['mono' => $mono]) }}>
        <ul id="{{ $for }}-list" role="listbox" aria-label="{{ $label }}" hidden></ul>
        <noscript><input name="{{ $name }}" value="{{ $shown }}" aria-label="{{ $label }}" @if ($bare) form="{{ $form }}" @endif></noscript>
      </div>
    @elseif ($options !== null)
      <select id="{{ $for }}" name="{{ $name }}" {{ $attributes->merge($row) }}>
        @if ($blank !== null)
          <option value="">{{ $blank }}</option>
        @endif
        @foreach ($options as $id => $text)
          <option value="{{ $id }}" @selected(is_array($now) ? in_array((string) $id, $now, true) : (string) $id === (string) $now)>{{ $text }}</option>
        @endforeach
      </select>
    @elseif($rows !== null)
      <textarea id="{{ $for }}" name="{{ $name }}" rows="{{ $rows }}" spellcheck="false"
        {{ $attributes->merge($marks)->class(['mono' => $mono]) }}>{{ is_array($now) ? implode("\n", $now) : $now }}</textarea>
    @else
      <input id="{{ $for }}" type="{{ $type }}" name="{{ $name }}" value="{{ $type === 'password' ? '' : $now }}"
        spellcheck="false" {{ $attributes->merge(['autocomplete' => 'off'] + $marks)->class(['mono' => $mono]) }}>
    @endif
    @if ($fault !== '')
      <span class="hint bad" id="{{ $for }}-fault">{{ $fault }}</span>
      @endif @if ($hint)
        <span class="hint">{{ $hint }}</span>
      @endif
  </div>
@endif
