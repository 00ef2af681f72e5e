<input type="hidden" name="kind" value="{{ $kind->value }}">
@if ($row)
  <input type="hidden" name="id" value="{{ $row->id }}">
@endif
<x-field :form="$form" name="name" label="Called" :value="$row->name ?? ''" :placeholder="$example" />
@if ($kind->hasSite())
  <x-field :form="$form" name="site" :label="$where" pick="site" none="everywhere" blank="everywhere" :value="$row->site_id ?? ''"
    :shown="$site->name ?? ''" />
@endif
