from django.urls import path

from cambrel.bench.views import bench, photographs, saved, takes, whys

app_name = "bench"
urlpatterns = [
    path("", bench.bench, name="bench"),
    path("drawing.svg", bench.drawing, name="drawing"),
    path("code.png", bench.code, name="code"),
    path("why/", whys.why, name="why"),
    path("take/", takes.take, name="take"),
    path("take.csv", takes.take_table, name="take-table"),
    path("take.svg", takes.take_drawing, name="take-drawing"),
    path("photograph/", photographs.photograph, name="photograph"),
    path("photograph/heads/", photographs.heads, name="photograph-heads"),
    path("tell/", bench.tell, name="tell"),
    path("numbers.csv", bench.numbers, name="numbers"),
    path("numbers.json", bench.numbers_json, name="numbers-json"),
    path("stack.csv", bench.stack, name="stack"),
    path("saved/", saved.saved_list, name="saved"),
    path("saved/<slug:what>/new/", saved.save, name="save"),
    path("saved/<slug:what>/<int:pk>/rename/", saved.rename, name="rename"),
    path("saved/<slug:what>/<int:pk>/duplicate/", saved.duplicate, name="duplicate"),
    path("saved/<slug:what>/<int:pk>/delete/", saved.delete, name="delete"),
]
