<?php

declare(strict_types=1);

use App\Database\Words;
use Illuminate\Database\Migrations\Migration;
use Illuminate\Support\Facades\DB;

/** The first labels of records are words that are found. */
return new class extends Migration
{
    public function up(): void
    {
        Words::fill('record');
    }

    public function down(): void
    {
        DB::table('words')->where('noun', Words::NOUNS['record'][0])->delete();
    }
};
