{{-- The team's own fields: $form, $values, $blank when a blank one stays as it is --}}
@foreach ($fields ?? $choices->ownFields() as $f)
  @if ($f->kind === 'choice')
    <x-field
      :form="$form"
      :name="'own[' . $f->id . ']'"
      :label="$f->name"
      :options="($blank ? ['-' => 'none'] : []) + array_combine($f->choices, $f->choices)"
      :blank="$blank ? 'stays' : 'none'"
      :value="$values[$f->id] ?? ''"
    />
  @else
    <x-field :form="$form" :name="'own[' . $f->id . ']'" :label="$f->name" :type="$f->kind === 'date' ? 'date' : 'text'" :value="$values[$f->id] ?? ''" />
  @endif
@endforeach
