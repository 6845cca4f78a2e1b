from django.urls import path

from cambrel.bench import saved, views

app_name = "bench"
urlpatterns = [
    path("", views.bench, name="bench"),
    path("drawing.svg", views.drawing, name="drawing"),
    path("numbers.csv", views.numbers, name="numbers"),
    path("saved/", saved.saved_list, name="saved"),
    path("saved/new/", saved.save, name="save"),
    path("saved/<int:pk>/rename/", saved.rename, name="rename"),
    path("saved/<int:pk>/duplicate/", saved.duplicate, name="duplicate"),
    path("saved/<int:pk>/delete/", saved.delete, name="delete"),
]
