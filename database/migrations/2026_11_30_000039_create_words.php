<?php

declare(strict_types=1);

use App\Database\Words;
use Illuminate\Database\Migrations\Migration;
use Illuminate\Support\Facades\DB;

/**
 * Words inside names and descriptions, so that they are found at a million rows. An index of our own: a search in a full-text index of
 * the engine for a word that is everywhere reads all of it, and cannot be given up.
 */
return new class extends Migration
{
    public function up(): void
    {
        DB::statement(
            'CREATE TABLE words (word VARCHAR(40) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL, noun TINYINT UNSIGNED NOT NULL, '
                .'row_id CHAR(26) CHARACTER SET ascii NOT NULL, '
                .'PRIMARY KEY (noun, word, row_id), KEY words_row (row_id, word)) ENGINE=InnoDB',
        );
        foreach (['address', 'prefix', 'reservation'] as $noun) {
            Words::fill($noun);
        }
    }

    public function down(): void
    {
        DB::statement('DROP TABLE words');
    }
};
