{{-- The form of the row that is edited where it stands. --}}
<x-act
  id="changeit"
  :action="\App\View\DirectoryLists::act($list)"
  :seen="[$edited::noun() . ':' . $edited->id => $edited->version]"
  :stay="$in->out()"
  data-inrow
  :data-next="$in->next()"
  hidden
>
  <input type="hidden" name="{{ \App\View\DirectoryLists::input($list) }}" value="{{ $edited->id }}">
</x-act>
<div id="follows-changeit" class="of-row"></div>
