from django.urls import path

from cambrel.bench import saved, views, whys

app_name = "bench"
urlpatterns = [
    path("", views.bench, name="bench"),
    path("drawing.svg", views.drawing, name="drawing"),
    path("why/", whys.why, name="why"),
    path("tell/", views.tell, name="tell"),
    path("numbers.csv", views.numbers, name="numbers"),
    path("stack.csv", views.stack, name="stack"),
    path("saved/", saved.saved_list, name="saved"),
    path("saved/<slug:what>/new/", saved.save, name="save"),
    path("saved/<slug:what>/<int:pk>/rename/", saved.rename, name="rename"),
    path("saved/<slug:what>/<int:pk>/duplicate/", saved.duplicate, name="duplicate"),
    path("saved/<slug:what>/<int:pk>/delete/", saved.delete, name="delete"),
]
