@props(['in', 'action'])
{{-- The form of the empty row at the foot of a table: it stays there for the next one. Where What follows stands is told beside it. --}}
<x-act id="rowadd" :$action :stay="$in->out() . '#addrow'" :data-next="$in->out() . '#addrow'" data-inrow hidden>{{ $slot }}</x-act>
<div id="follows-rowadd" class="of-row"></div>
