<?php

declare(strict_types=1);

use App\Engine\Journal\MemoryPieces;
use Illuminate\Database\Migrations\Migration;
use Illuminate\Support\Facades\DB;
use Lotrik\Watching\MemoryPiece;

return new class extends Migration {
    protected $connection = 'journal';

    public function up(): void
    {
        $database = DB::connection('journal');
        // One row a commit and kind for all contracts, so that a second of all markets costs a few pages and not forty.
        $database->statement(
            'CREATE TABLE market_history (kind TEXT NOT NULL, id INTEGER NOT NULL, newest TEXT NOT NULL, body BLOB NOT NULL, PRIMARY KEY '
                .'(kind, id)) WITHOUT ROWID',
        );
        $id = 0;
        foreach ($database->table('market_memory')->orderBy('kind')->orderBy('number')->cursor() as $old) {
            $row = MemoryPieces::of([$old->contract => [new MemoryPiece($old->kind, (int) $old->number, $old->body)]]);
            $statement = $database->getPdo()->prepare('INSERT INTO market_history (kind, id, newest, body) VALUES (?, ?, ?, ?)');
            foreach ([$old->kind, ++$id, $row[$old->kind]->newest()] as $i => $value) {
                $statement->bindValue($i + 1, $value);
            }
            $statement->bindValue(4, $row[$old->kind]->body, PDO::PARAM_LOB);
            $statement->execute();
        }
        $database->statement('DROP TABLE market_memory');
        // The desk's own checkpoint stands in a file now.
        $database->table('checkpoints')->where('name', 'desk')->delete();
    }
};
