@include('errors.page', [
    'code' => 500,
    'head' => 'Something went wrong here',
    'says' => 'Nothing of what you sent was written. It is in the log; try again, and tell a steward when it comes back.',
    'to' => '/',
    'label' => 'To your first page',
])
