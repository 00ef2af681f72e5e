@include('errors.page', [
    'code' => 400,
    'head' => 'The address is not understood',
    'says' => $exception->getMessage() ?: 'Something in it is not as it was made.',
    'to' => '/',
    'label' => 'To your first page',
])
