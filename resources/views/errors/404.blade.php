@include('errors.page', [
    'code' => 404,
    'head' => 'Nothing is here',
    'says' => 'The address is mistyped, or what it named was removed or is not available to you.',
    'to' => '/',
    'label' => 'To your first page',
])
