@props(['list', 'by', 'num' => false])
{{-- A head by which the server sorts the list. --}}
<th @class(['num' => $num]) aria-sort="{{ $list->says($by) }}">
  <a class="sort" href="{{ request()->fullUrlWithQuery(['sort' => $list->asks($by), 'page' => null]) }}">{{ $slot }}</a>
</th>
